"""The desk: fares, bookings, manifests."""
