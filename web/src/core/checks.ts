import type { Result } from './page.generated'

/** What the checks of a rig have found, in one line; nothing is said of frames that were not looked at. One that waits is still
 * being simulated. */
export function inShort(results: Result[], checked: { seen: number; of: number }, waits: boolean) {
  const outside = results.filter((c) => c.state === 'outside')
  const near = results.filter((c) => c.state === 'near')
  if (results.length === 0) return waits ? 'Measured when it is simulated' : 'Being measured'
  const all = results.length === 1 ? '1 check' : `${results.length} checks`
  if (outside.length) return `${all}, ${outside.length} outside: ${outside[0]!.id} ${outside[0]!.word}`
  if (near.length) return `${all}, ${near.length} near: ${near[0]!.id}`
  return `${all}, ${checked.seen < checked.of ? 'inside so far' : 'all inside'}`
}
