/** The public service: asks the others for what a crossing needs. Entry point: {@link skerry.booking.BookingService}. */
package skerry.booking;
