import { partForms } from './forms'
import type { Part, PartShape } from './page.generated'

/** Makes a part so many times as large: all lengths of its shape, and where its pivot is. */
export function resizePart(p: Part, times: number) {
  const kind = Object.keys(p.shape)[0] as keyof PartShape
  const shape = p.shape[kind] as unknown as Record<string, number | undefined>
  const sized = (x: number) => Number((x * times).toPrecision(9))
  for (const f of partForms[kind].fields) {
    if (f.kind !== 'length' && f.kind !== 'distance') continue
    // What is left out follows other lengths; a file's unit left out is a metre.
    const was = shape[f.key] || (f.key === 'scale' ? 1 : 0)
    if (was) shape[f.key] = sized(was)
  }
  if (p.pivot) p.pivot = [sized(p.pivot[0]), sized(p.pivot[1]), sized(p.pivot[2])]
}
