import { checkWords } from '../../core/forms'
import type { Result } from '../../core/page.generated'
import { shownUnit, showWithUnit, type LengthUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import type { Roles } from '../../look/theme'

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
    return {
      value,
      unit,
      tolerance: (checkWords[r.id]?.signed ? '±' : 'max ') + small(r.tolerance, units),
    }
  }
  if (r.unit === 'm/frame' || r.unit === '°') {
    const shown = (v: number) => (r.unit === '°' ? v.toFixed(2) : showWithUnit(v, 'length', units).split(' ')[0]!)
    return {
      value: shown(Math.abs(r.value)),
      unit: r.unit === '°' ? '°' : shownUnit('length', units) + ' a frame',
      tolerance: `max ${r.unit === '°' ? String(Number(r.tolerance.toPrecision(3))) : shown(r.tolerance)}`,
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

/** A check that fails, in words: "the loop jumps, 12.3 mm". */
export function failing(r: Result, units: LengthUnit | undefined): string {
  const { value, unit } = figure(r, units ?? 'mm')
  return `${checkWords[r.id]?.name.toLowerCase() ?? r.id} ${r.word}, ${value} ${unit}`.trimEnd()
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
