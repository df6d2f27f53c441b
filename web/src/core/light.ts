/** The sun where a document says none; as the core's. */
export const firstSun = { heading: 57, height: 62, strength: 1 }
