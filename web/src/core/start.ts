import type { Path } from './page.generated'

/**
 * Makes a closed path start `by` metres further along: by its last step where that
 * is a start, else by a new one. `length` keeps the distance within one round.
 */
export function movedStart(path: Path, by: number, length: number): void {
  const wrap = (s: number) => ((s % length) + length) % length
  const steps = (path.steps ??= [])
  const last = steps.at(-1)
  if (last?.startAt && !last.off) last.startAt.distance = wrap(last.startAt.distance + by)
  else steps.push({ startAt: { distance: wrap(by) } })
}
