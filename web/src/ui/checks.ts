import type { Result } from '../api/page.generated'
import { showWithUnit, type LengthUnit } from '../core/units'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import type { Roles } from './theme'

export const checkNames: Record<string, string> = { spacing: 'Spacing', seam: 'Seam', flips: 'Flips', loop: 'Loop' }

/** What each check compares, in a sentence. */
export const checkMeans: Record<string, string> = {
  spacing: 'The distance along the path from each piece to the next, against the pitch.',
  seam: 'What is left between the last piece and the first beyond one pitch.',
  flips: 'Neighbours between which up turns about forward by more than 45° that the curve does not explain.',
  loop: 'The frame after the range against its first, pieces that changed places allowed.',
}

/** A result's number and unit, apart. */
export function figure(r: Result, units: LengthUnit): { value: string; unit: string; tolerance: string } {
  if (r.unit === 'm') {
    const [value = '', unit = ''] = showWithUnit(Object.is(r.value, -0) ? 0 : r.value, 'length', units).split(' ')
    return { value, unit, tolerance: '±' + showWithUnit(r.tolerance, 'length', units).split(' ')[0] }
  }
  return { value: String(r.value), unit: r.of ? `of ${r.of}` : '', tolerance: `max ${r.tolerance}` }
}

export const toneOf = (r: Result, roles: Roles) =>
  r.state === 'outside'
    ? { line: roles.red, text: roles.redText, tint: roles.redTint }
    : r.state === 'near'
      ? { line: roles.amber, text: roles.amberText, tint: roles.amberTint }
      : { line: roles.kelp, text: roles.kelpText, tint: 'transparent' }

/** Opens a check and goes to the frame where it is worst. */
export function showCheck(r: Result) {
  useBench.setState({ panel: 'check', shownCheck: r.id })
  if (r.where && r.state !== 'inside') {
    useClock.getState().pause()
    useClock.getState().goTo(r.where.frame)
  }
}
