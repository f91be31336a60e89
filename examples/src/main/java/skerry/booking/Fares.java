package skerry.booking;

/** Computes fares. */
final class Fares {
    private Fares() {}

    static double of(String vehicle, int passengers) {
        double forVehicle = vehicle.equals("coach") ? 180 : vehicle.equals("lorry") ? 140 : 45;
        return forVehicle + 12.5 * passengers;
    }
}
