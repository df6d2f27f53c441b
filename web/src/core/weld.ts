import type { MeshData } from './wire'

/**
 * The points of a cloth: vertices of its part in one place are one, numbered in the order in which
 * they first come. Returns the point of each vertex, and the first vertex of each point.
 */
export function weld(m: Pick<MeshData, 'positions'>): { of: number[]; first: number[] } {
  const known = new Map<string, number>()
  const of: number[] = []
  const first: number[] = []
  for (let v = 0; 3 * v < m.positions.length; v++) {
    const key = `${m.positions[3 * v]! + 0} ${m.positions[3 * v + 1]! + 0} ${m.positions[3 * v + 2]! + 0}`
    let k = known.get(key)
    if (k === undefined) {
      k = first.length
      known.set(key, k)
      first.push(v)
    }
    of.push(k)
  }
  return { of, first }
}
