// Numbers as people type and read them: units and arithmetic in, tidy text out.
// Inside everything is metres, degrees, seconds and frames.

export type Quantity = 'length' | 'distance' | 'angle' | 'speed' | 'count' | 'frame' | 'waves' | 'plain'
export type LengthUnit = 'mm' | 'cm' | 'm' | 'in'

const metres: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, km: 1000, in: 0.0254, ft: 0.3048, '"': 0.0254 }
const degrees: Record<string, number> = { deg: 1, '°': 1, rad: 180 / Math.PI, turn: 360, turns: 360 }
const speeds: Record<string, number> = {
  'mm/s': 0.001,
  'cm/s': 0.01,
  'm/s': 1,
  'in/s': 0.0254,
  'ft/s': 0.3048,
  'km/h': 1 / 3.6,
}

const tables: Record<Quantity, Record<string, number>> = {
  length: metres,
  distance: metres,
  angle: degrees,
  speed: speeds,
  count: {},
  frame: {},
  waves: {},
  plain: {},
}

/** The unit a field of this quantity shows. */
export function shownUnit(q: Quantity, small: LengthUnit): string {
  switch (q) {
    case 'length':
      return small
    case 'distance':
      return small === 'in' ? 'ft' : 'm'
    case 'angle':
      return '°'
    case 'speed':
      return small === 'in' ? 'in/s' : small === 'm' ? 'm/s' : 'mm/s'
    case 'waves':
      return 'waves'
    default:
      return ''
  }
}

const decimals: Record<string, number> = { mm: 1, cm: 2, m: 3, ft: 3, in: 3, '°': 1, 'mm/s': 1, 'in/s': 2, 'm/s': 3 }

/** Shows a value in its unit, without the unit's name. */
export function show(value: number, q: Quantity, small: LengthUnit): string {
  const unit = shownUnit(q, small)
  const v = value / (tables[q][unit] ?? 1)
  if (q === 'count' || q === 'frame' || q === 'waves' || q === 'plain') return String(Math.round(v * 1e4) / 1e4)
  const text = v.toFixed(decimals[unit] ?? 3)
  return /^-0\.?0*$/.test(text) ? text.slice(1) : text
}

/** Shows a value with its unit. */
export function showWithUnit(value: number, q: Quantity, small: LengthUnit): string {
  const unit = shownUnit(q, small)
  return show(value, q, small) + (unit === '°' ? '°' : unit ? ' ' + unit : '')
}

/** The step that an arrow key takes, in the value's own unit. */
export function stepOf(q: Quantity, small: LengthUnit): number {
  const unit = shownUnit(q, small)
  const step: Record<string, number> = {
    mm: 1,
    cm: 0.1,
    m: 0.01,
    in: 0.0625,
    ft: 0.05,
    '°': 1,
    'mm/s': 5,
    'in/s': 0.25,
    'm/s': 0.01,
  }
  return q === 'count' || q === 'frame' || q === 'plain' ? 1 : (step[unit] ?? 1) * (tables[q][unit] ?? 1)
}

export class NumberError extends Error {}

/**
 * Reads what was typed: + - * / and brackets over numbers with or without units.
 * A number without a unit counts in the field's unit once, as a whole: "62*190 mm"
 * and "62*190" mean the same in a field that shows mm, and "1/4 in" is a quarter
 * inch. Throws a NumberError that says what would be accepted.
 */
export function readNumber(text: string, q: Quantity, small: LengthUnit): number {
  const parser = new Parser(text, tables[q])
  const { value, united } = parser.all()
  const result = united ? value : value * (tables[q][shownUnit(q, small)] ?? 1)
  if (!Number.isFinite(result)) throw new NumberError('That is not a finite number.')
  if (q === 'count' && !Number.isInteger(Math.round(result * 1e9) / 1e9))
    throw new NumberError('A whole number is accepted.')
  return result
}

interface Term {
  value: number
  united: boolean
}

class Parser {
  private at = 0
  constructor(
    private readonly text: string,
    private readonly units: Record<string, number>,
  ) {}

  all(): Term {
    const t = this.sum()
    this.space()
    if (this.at < this.text.length) this.refuse()
    return t
  }

  private refuse(): never {
    const names = Object.keys(this.units)
    const rest = this.text.slice(this.at).trim()
    const what = rest ? `“${rest}” is not understood.` : 'The number is not finished.'
    throw new NumberError(
      `${what} Accepted: numbers, + − × / and brackets${names.length ? ', units ' + names.slice(0, 6).join(', ') : ''}.`,
    )
  }

  private space() {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++
  }

  private take(chars: string): string {
    this.space()
    const c = this.text[this.at] ?? ''
    if (c && chars.includes(c)) {
      this.at++
      return c
    }
    return ''
  }

  private sum(): Term {
    let left = this.product()
    for (let op = this.take('+-−'); op; op = this.take('+-−')) {
      const right = this.product()
      if (left.united !== right.united) throw new NumberError('Give both sides of + or − a unit, or neither.')
      left = { value: op === '+' ? left.value + right.value : left.value - right.value, united: left.united }
    }
    return left
  }

  private product(): Term {
    let left: Term = this.signed()
    for (let op = this.take('*×/·'); op; op = this.take('*×/·')) {
      const right = this.signed()
      const divide = op === '/'
      if (left.united && right.united) {
        if (!divide) throw new NumberError('Only one factor can have a unit.')
        left = { value: left.value / right.value, united: false }
      } else if (divide && right.united) {
        // "1/4 in": the unit belongs to the whole fraction.
        left = { value: (left.value / right.bare) * right.unit, united: true }
      } else {
        left = {
          value: divide ? left.value / right.value : left.value * right.value,
          united: left.united || right.united,
        }
      }
    }
    return left
  }

  private signed(): Term & { bare: number; unit: number } {
    if (this.take('-−')) {
      const t = this.signed()
      return { ...t, value: -t.value, bare: -t.bare }
    }
    this.take('+')
    return this.atom()
  }

  private atom(): Term & { bare: number; unit: number } {
    let bare: number
    let united = false
    if (this.take('(')) {
      const t = this.sum()
      if (!this.take(')')) this.refuse()
      bare = t.value
      united = t.united
    } else {
      this.space()
      const m = /^(\d+[.,]?\d*|[.,]\d+)(e[+-]?\d+)?/i.exec(this.text.slice(this.at))
      if (!m) this.refuse()
      this.at += m[0].length
      bare = Number(m[0].replace(',', '.'))
    }
    if (united) return { value: bare, united, bare, unit: 1 }
    this.space()
    const rest = this.text.slice(this.at)
    const name = Object.keys(this.units)
      .sort((a, b) => b.length - a.length)
      .find((u) => rest.startsWith(u) && !/^[a-z]/i.test(rest.slice(u.length)))
    if (!name) return { value: bare, united: false, bare, unit: 1 }
    this.at += name.length
    const unit = this.units[name]!
    return { value: bare * unit, united: true, bare, unit }
  }
}

/** A number of things in words that agree with it. */
export const counted = (n: number, thing: string) => `${n} ${thing}${n === 1 ? '' : 's'}`
