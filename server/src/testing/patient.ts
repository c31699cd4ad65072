/** A real database beside other work takes its time: a spec fails by what it says, not by how long that took. */
jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;
