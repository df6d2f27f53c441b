/**
 * The element over the view that holds its labels. Labels are given it directly: the one they would find by
 * themselves changes while the view starts, and a label could be lost.
 */
export const labelLayer: { current: HTMLDivElement } = { current: null! }

/** How far the view's buttons reach right and down from its upper left corner, pixels: labels keep clear of them. */
export const buttonsReach = { right: 0, bottom: 0 }

/** Keeps that known for the row of buttons. */
export function keepButtons(row: HTMLElement | null) {
  if (!row) return
  const observer = new ResizeObserver(() => {
    const view = row.parentElement!.getBoundingClientRect()
    const each = [...row.children].map((e) => e.getBoundingClientRect())
    buttonsReach.right = Math.max(0, ...each.map((e) => e.right - view.left))
    buttonsReach.bottom = Math.max(0, ...each.map((e) => e.bottom - view.top))
  })
  observer.observe(row)
  return () => observer.disconnect()
}
