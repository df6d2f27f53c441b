import { BufferAttribute, type BufferGeometry } from 'three'
import type { MeshData } from '../core/wire'
import { shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import type { Material } from '../core/page.generated'

/** Tells of each vertex of a part how far down it is: 1 at the bottom, 0 from the middle up. */
export function lowness(p: MeshData, up: string): (vertex: number) => number {
  const axis = 'xyz'.indexOf(up[1] ?? 'y')
  const sign = up[0] === '-' ? -1 : 1
  let [least, most] = [Infinity, -Infinity]
  for (let i = axis; i < p.positions.length; i += 3) {
    least = Math.min(least, sign * p.positions[i]!)
    most = Math.max(most, sign * p.positions[i]!)
  }
  return (k) => {
    const u = (sign * p.positions[3 * k + axis]! - least) / Math.max(most - least, 1e-9)
    const t = Math.min(Math.max((0.5 - u) / 0.3, 0), 1)
    return t * t * (3 - 2 * t)
  }
}

/**
 * Gives the lower side of a rigid thing its colour, by vertices: each is a share of the colour above, which
 * comes from its instance or material. A material with one colour all round is left as it is.
 */
export function shadeLower(
  geometry: BufferGeometry | null,
  mesh: MeshData | undefined,
  up: string,
  made: Material | undefined,
  roles: Roles,
  chosen: boolean,
) {
  if (!geometry || !mesh || !made?.under) {
    geometry?.deleteAttribute('color')
    return
  }
  const top = shownColour(made.colour, roles, chosen)
  const under = shownColour(made.under, roles, chosen)
  const share = [under.r / Math.max(top.r, 1e-3), under.g / Math.max(top.g, 1e-3), under.b / Math.max(top.b, 1e-3)]
  const low = lowness(mesh, up)
  const colours = new Float32Array(mesh.positions.length)
  for (let v = 0; v < colours.length / 3; v++) {
    for (let k = 0; k < 3; k++) colours[3 * v + k] = 1 + (share[k]! - 1) * low(v)
  }
  geometry.setAttribute('color', new BufferAttribute(colours, 3))
}
