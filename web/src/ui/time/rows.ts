/** Where the rows of the time strip lie, pixels from its top. */
export const timeRows = { brace: 9, keys: 24, axis: 36, text: 52 }
