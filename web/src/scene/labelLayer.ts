/**
 * The element over the view that holds its labels. They are given it by name: what they look for
 * by themselves changes while the view comes up, and with it a label could be lost.
 */
export const labelLayer: { current: HTMLDivElement } = { current: null! }
