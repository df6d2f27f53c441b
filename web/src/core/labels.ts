/**
 * Where a label of a place at x, y of a view goes, in pixels: nothing of it is cut off by the view's sides or
 * lies under its buttons, where the place itself is within the view. left, right and top are how far the label
 * reaches from its place, right and bottom of the buttons how far they do from the view's upper left corner.
 */
export function labelPlace(
  [x, y]: [number, number],
  { left, right, top }: { left: number; right: number; top: number },
  width: number,
  buttons: { right: number; bottom: number },
): [number, number] {
  if (x < 0 || x > width) return [x, y]
  const across = Math.max(Math.min(x, width - 4 - right), 4 - left)
  const under = y > 0 && y + top < buttons.bottom && across + left < buttons.right
  return [across, under ? buttons.bottom - top : y]
}
