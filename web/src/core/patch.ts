/** An operation of a JSON Patch (RFC 6902). */
export type Op = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string }

/** The most operations of a patch; of more the whole is sent. */
const most = 2000

/**
 * What makes one JSON value of another, null where that is too much. Members are set by "add",
 * which also replaces. Values that are the same object
 * are not looked into, so that an edit of a large document costs as much as what it touched.
 */
export function patchOf(before: unknown, after: unknown): Op[] | null {
  const ops: Op[] = []
  differ(before, after, '', 'add', ops)
  return ops.length > most ? null : ops
}

type Tree = Record<string, unknown>

const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && !Array.isArray(v)

const escaped = (key: string) => key.replaceAll('~', '~0').replaceAll('/', '~1')

function differ(a: unknown, b: unknown, path: string, op: 'add' | 'replace', ops: Op[]) {
  if (a === b || ops.length > most) return
  if (Array.isArray(a) && Array.isArray(b) && a.length > 0 && b.length > 0) {
    differList(a, b, path, ops)
  } else if (isTree(a) && isTree(b) && Object.keys(a).length > 0) {
    for (const key of Object.keys(a)) {
      if (a[key] !== undefined && b[key] === undefined) ops.push({ op: 'remove', path: `${path}/${escaped(key)}` })
    }
    for (const [key, value] of Object.entries(b)) {
      if (value !== undefined) differ(a[key], value, `${path}/${escaped(key)}`, 'add', ops)
    }
  } else if (JSON.stringify(a) !== JSON.stringify(b)) {
    ops.push({ op, path, value: b })
  }
}

/** Lists keep what they begin and end with alike; in between entries go, come, or change. */
function differList(a: unknown[], b: unknown[], path: string, ops: Op[]) {
  const least = Math.min(a.length, b.length)
  let from = 0
  let end = 0
  if (a.length !== b.length) {
    while (from < least && alike(a[from], b[from])) from++
    while (end < least - from && alike(a[a.length - 1 - end], b[b.length - 1 - end])) end++
  }
  const was = a.length - end
  const is = b.length - end
  const common = Math.min(was, is)
  for (let k = from; k < common; k++) differ(a[k], b[k], `${path}/${k}`, 'replace', ops)
  for (let k = was - 1; k >= common; k--) ops.push({ op: 'remove', path: `${path}/${k}` })
  for (let k = common; k < is; k++) ops.push({ op: 'add', path: `${path}/${k}`, value: b[k] })
}

const alike = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
