import type { Result } from './page.generated'

/** What the checks of a rig have found, in one line; nothing is said of frames that were not looked at. */
export function inShort(results: Result[], checked: { seen: number; of: number; waiting: string[] }, rig: string) {
  const outside = results.filter((c) => c.state === 'outside')
  const near = results.filter((c) => c.state === 'near')
  if (results.length === 0) return checked.waiting.includes(rig) ? 'Measured when it is simulated' : 'Being measured'
  const all = results.length === 1 ? '1 check' : `${results.length} checks`
  if (outside.length) return `${all}, ${outside.length} outside: ${outside[0]!.id} ${outside[0]!.word}`
  if (near.length) return `${all}, ${near.length} near: ${near[0]!.id}`
  return `${all}, ${checked.seen < checked.of ? 'inside so far' : 'all inside'}`
}
