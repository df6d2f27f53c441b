/**
 * What is left out where the strip is narrow, in this order: labels of what stands beside them, then buttons
 * that have a key.
 */
export const ample = { '@container (max-width: 1100px)': { display: 'none' } }
export const roomy = { '@container (max-width: 860px)': { display: 'none' } }
export const some = { '@container (max-width: 520px)': { display: 'none' } }
