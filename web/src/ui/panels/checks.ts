import type { Result } from '../../core/page.generated'
import { shownUnit, showWithUnit, type LengthUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import type { Roles } from '../../look/theme'

export const checkNames: Record<string, string> = {
  spacing: 'Spacing',
  seam: 'Seam',
  overlap: 'Overlap',
  outward: 'Outward',
  jumps: 'Jumps',
  flips: 'Flips',
  slip: 'Slip',
  tension: 'Tension',
  teeth: 'Teeth',
  floor: 'Floor',
  step: 'Step',
  length: 'Length',
  facets: 'Facets',
  fold: 'Fold',
  strain: 'Strain',
  ends: 'Ends',
  loop: 'Loop',
}

/** What each check compares, in a sentence. */
export const checkMeans: Record<string, string> = {
  spacing: 'The distance along the path from each piece to the next, against the pitch.',
  seam: 'What is left between the last piece and the first beyond one pitch.',
  overlap:
    'How far pieces run into the next, along 24 × 24 lines through each. Corners on the inside of bends may do so by a tenth of the pitch.',
  outward: 'Pieces whose outer side looks into the loop, against the wheels.',
  jumps: 'What is thrown from one place to another between two frames, in no time.',
  flips: 'Neighbours between which up turns about forward by more than 45° that the curve does not explain.',
  slip: 'The speed over the ground of what lies on it, along its carrier, against the greatest speed.',
  tension: 'What the kept length lacks for the taut belt, or has too much of where nothing takes it up.',
  teeth: 'How far the pins on sprockets stand beside the gaps between the teeth.',
  floor: 'How deep pieces come into the ground.',
  length: 'The middle line of the body, measured anew, against the length it is to have.',
  facets: 'How far the straight edges along the body stray from the bend of its skin.',
  fold: 'How far the inside of the tightest bend is pressed together. At 100 % the body folds over itself.',
  strain: 'How much longer or shorter than its middle the body is along its outside and inside.',
  ends: 'How far the body reaches beyond an open end of the path, where it runs straight on.',
  step: 'How far this rig and the one it is to be in step with have come, at their greatest difference.',
  loop: 'The frame after the range against its first, pieces that changed places allowed.',
}

/** A tolerance in the scene's unit, with more digits where the usual ones would make it nothing. */
function small(metres: number, units: LengthUnit): string {
  const [usual = ''] = showWithUnit(metres, 'length', units).split(' ')
  if (Number(usual) !== 0) return usual
  const [unit = ''] = showWithUnit(1, 'length', units).split(' ')
  return String(Number((metres * Number(unit)).toPrecision(2)))
}

/** A result's number and unit, apart. */
export function figure(r: Result, units: LengthUnit): { value: string; unit: string; tolerance: string } {
  if (r.unit === 'm') {
    const [value = '', unit = ''] = showWithUnit(Object.is(r.value, -0) ? 0 : r.value, 'length', units).split(' ')
    const signed = ['spacing', 'seam', 'tension', 'teeth', 'step'].includes(r.id)
    return {
      value,
      unit,
      tolerance: (signed ? '±' : 'max ') + small(r.tolerance, units),
    }
  }
  if (r.unit === 'm/frame' || r.unit === '°') {
    const shown = (v: number) => (r.unit === '°' ? v.toFixed(2) : showWithUnit(v, 'length', units).split(' ')[0]!)
    return {
      value: shown(Math.abs(r.value)),
      unit: r.unit === '°' ? '°' : shownUnit('length', units) + ' a frame',
      tolerance: `max ${r.unit === '°' ? '0.1' : shown(r.tolerance)}`,
    }
  }
  if (r.unit === '%') {
    return {
      value: Math.abs(r.value).toFixed(Math.abs(r.value) < 10 ? 2 : 1),
      unit: '%',
      tolerance: `max ${r.tolerance}`,
    }
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
