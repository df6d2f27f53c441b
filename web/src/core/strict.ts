import schema from './page.schema.json'

// Holds what the server sends to the types that it states ('make types'), so that an answer of another
// version of Bead, or of no Bead, is said to be one and not drawn by half.

interface Shape {
  $ref?: string
  type?: string
  properties?: Record<string, Shape>
  required?: string[]
  items?: Shape
  minItems?: number
  maxItems?: number
  enum?: unknown[]
  oneOf?: Shape[]
}

const defs = schema.$defs as unknown as Record<string, Shape>

/** What a value is, in the words of JSON. */
const jsonKind = (v: unknown) => (v === null ? 'null' : Array.isArray(v) ? 'array' : typeof v)

/**
 * Says where a value is not of a type and what stands there; nothing where it is. What a newer server adds
 * is no fault.
 */
export function wrongIn(type: string, value: unknown): string | undefined {
  const shape = defs[type]
  if (!shape) throw new Error(`There is no type ${type}.`)
  return wrong(shape, value, '')
}

/** The value, if it is of a type; else an error that says where it is not. */
export function strictly<T>(type: string, value: unknown): T {
  const fault = wrongIn(type, value)
  if (fault) throw new Unreadable(fault)
  return value as T
}

/** What the server sent is not understood. */
export class Unreadable extends Error {
  constructor(why: string) {
    super(`What the server sent is not understood (${why}). Reload the page: the server may be of another version.`)
  }
}

function wrong(shape: Shape, v: unknown, at: string): string | undefined {
  if (shape.$ref) return wrong(defs[shape.$ref.replace('#/$defs/', '')]!, v, at)
  const is = jsonKind(v)
  const fault = (wanted: string) => `${at || 'it'} is ${shown(v)}, not ${wanted}`
  switch (shape.type) {
    case 'integer':
      if (!Number.isInteger(v)) return fault('a whole number')
      break
    case undefined:
      break
    default:
      if (is !== shape.type) return fault(`of the kind ${shape.type}`)
  }
  if (shape.enum && !shape.enum.includes(v)) return fault(`one of ${shape.enum.join(', ')}`)
  if (shape.oneOf && shape.oneOf.every((s) => wrong(s, v, at))) return fault('of any kind that is known')
  return is === 'array'
    ? wrongItem(shape, v as unknown[], at)
    : is === 'object'
      ? wrongField(shape, v as object, at)
      : undefined
}

function wrongItem({ items, minItems = 0, maxItems = Infinity }: Shape, list: unknown[], at: string) {
  if (list.length < minItems || list.length > maxItems) return `${at || 'it'} has ${list.length} entries`
  if (!items || (items.type === 'number' && list.every((x) => typeof x === 'number'))) return undefined
  for (const [i, x] of list.entries()) {
    const fault = wrong(items, x, `${at}[${i}]`)
    if (fault) return fault
  }
  return undefined
}

function wrongField({ properties, required }: Shape, v: object, at: string) {
  const dot = at && at + '.'
  const lost = required?.find((k) => (v as Record<string, unknown>)[k] === undefined)
  if (lost !== undefined) return `${dot}${lost} is missing`
  if (!properties) return undefined
  for (const [k, x] of Object.entries(v)) {
    const fault = properties[k] && wrong(properties[k], x, dot + k)
    if (fault) return fault
  }
  return undefined
}

const shown = (v: unknown) =>
  v !== null && typeof v === 'object' ? `of the kind ${jsonKind(v)}` : String(JSON.stringify(v)).slice(0, 40)
