import type { Vec3 } from './forms'
import type { Point } from './page.generated'

/** A curve's handle: the one behind its point or the one ahead of it. */
export type Side = 'in' | 'out'

/** Puts a handle to an offset from its point, in the way that the point's kind asks for. */
export function pullHandle(p: Point, side: Side, to: Vec3, resolved: { in: Vec3; out: Vec3 }) {
  if (p.handles === 'smooth') {
    p.handles = 'aligned'
    p.in = resolved.in
    p.out = resolved.out
  }
  if (side === 'out' || p.handles === 'free') {
    p[side] = to
    if (side === 'out' && p.handles === 'aligned') p.in ??= resolved.in
    return
  }
  // The document leads with the out handle: the in handle's direction turns it.
  const reach = Math.hypot(...to)
  const other = p.handles === 'mirrored' ? reach : Math.hypot(...resolved.out)
  p.in = to
  if (reach > 0) p.out = to.map((x) => (-x / reach) * other) as Vec3
}

/** The next of what the arrows move: the point, its handle ahead, the one behind; ends of open curves have one. */
export function nextGrip(now: Side | undefined, point: number, points: number, closed: boolean): Side | undefined {
  const there: (Side | undefined)[] = [undefined]
  if (closed || point < points - 1) there.push('out')
  if (closed || point > 0) there.push('in')
  return there[(there.indexOf(now) + 1) % there.length]
}
