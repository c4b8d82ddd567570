// Compiles the shared test headers.
