/** The public service, which calls the others. Entry point: {@link skerry.booking.BookingService}. */
package skerry.booking;
