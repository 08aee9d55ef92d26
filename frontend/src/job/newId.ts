/** An id for a thing or an array that is put in: its own for good, and nobody else's who adds one meanwhile. */
export const newId = () => crypto.getRandomValues(new Uint32Array(1))[0]?.toString(36) ?? "";
