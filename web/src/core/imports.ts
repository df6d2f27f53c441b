import type { Document, ReadMaterial, ReadMesh, ReadPath } from './page.generated'
import { freeId, freeName } from './value'

// How files that are read come to lie in a scene.

export type Vec3 = [number, number, number]

/** Metres of the units that people name, as a file or a person may say them. */
export const unitsOfLength = { m: 1, cm: 0.01, mm: 0.001, in: 0.0254 } as const
export type LengthUnit = keyof typeof unitsOfLength

/** CSS and SVG 2: an inch is 96 pixels, 72 points, 6 picas. */
const cssUnits: Record<string, number> = {
  ...unitsOfLength,
  px: 0.0254 / 96,
  pt: 0.0254 / 72,
  pc: 0.0254 / 6,
  q: 0.00025,
}

/** Metres that a unit of an SVG's coordinates is, as its width and view box say; undefined where they do not. */
export function svgUnit(text: string): number | undefined {
  const root = /<svg\b[^>]*>/i.exec(text)?.[0] ?? ''
  const attribute = (name: string) => new RegExp(`\\b${name}\\s*=\\s*["']\\s*([^"']*)`, 'i').exec(root)?.[1]
  const [, size, unit] = /^([\d.]+(?:e[-+]?\d+)?)\s*(mm|cm|in|pt|pc|q)\s*$/i.exec(attribute('width') ?? '') ?? []
  if (!size || !unit) return undefined
  const width = Number(attribute('viewBox')?.split(/[\s,]+/)[2] ?? NaN)
  const metres = Number(size) * cssUnits[unit.toLowerCase()]!
  // Without a view box coordinates are CSS pixels.
  const one = width > 0 ? metres / width : cssUnits.px!
  return one > 0 && Number.isFinite(one) ? Number(one.toPrecision(9)) : undefined
}

/** A mesh as large as a hill or as small as a grain was made in another unit than metres. */
export function guessUnit(mesh: ReadMesh, file: string): LengthUnit {
  if (/\.(glb|gltf)$/i.test(file)) return 'm' // the format says so
  const size = Math.max(...extents(mesh))
  if (size > 100) return 'mm'
  return size > 20 ? 'cm' : 'm'
}

export const extents = (mesh: ReadMesh) => mesh.max.map((x, i) => x - mesh.min[i]!) as Vec3

export type Forward = '+x' | '+y' | '+z'

/** The axis along which a mesh is longest by far; where none is +z, or +x of one that is flat along z. */
export function longestAxis(mesh: ReadMesh): Forward {
  const size = extents(mesh)
  const k = size.indexOf(Math.max(...size))
  const second = Math.max(...size.filter((_, i) => i !== k))
  if (size[k]! > 1.2 * second) return `+${'xyz'[k]}` as Forward
  return size[2] > 0.01 * second ? '+z' : '+x'
}

/** Puts a mesh that the server has read into a document as a part; returns its id. */
export function addMeshPart(d: Document, file: string, mesh: ReadMesh, scale: number, forward: Forward): string {
  const stem = file.replace(/\.[^.]+$/, '').slice(0, 55) || 'Mesh'
  const name = stem[0]!.toUpperCase() + stem.slice(1)
  const id = freeId(d.parts, name)
  d.parts.push({
    id,
    name: freeName(d.parts, name),
    shape: { file: { asset: mesh.asset, scale } },
    forward,
    up: forward === '+y' ? '+z' : '+y',
  })
  return id
}

/** Gives a part the materials of its file: each surface that which has its name there. */
export function dressPart(d: Document, part: string, found: ReadMaterial[]) {
  const p = d.parts.find((x) => x.id === part)!
  for (const { material } of found) {
    const list = (d.materials ??= [])
    const id = freeId(list, material.name)
    list.push({ ...structuredClone(material), id, name: freeName(list, material.name) })
    if (found.length === 1) p.material = id
    else (p.surfaces ??= []).push({ name: material.name, material: id })
  }
}

/** Stands a part in the scene, its lowest point on the ground, and returns the fixture's id. */
export function addFixture(d: Document, name: string, part: string, height = 0): string {
  const list = (d.fixtures ??= [])
  const id = freeId(list, name)
  list.push({ id, name: freeName(list, name), part, at: [0, height, 0] })
  return id
}

export const planes = ['above', 'side', 'ahead'] as const
export type Lies = (typeof planes)[number] | 'as is'

/** Lays a file's flat numbers into a plane of the scene. SVG's y runs down, so it is turned over in upright planes. */
function laid(p: Vec3, lies: Lies, scale: number): Vec3 {
  const [x, y, z] = p.map((v) => v * scale) as Vec3
  switch (lies) {
    case 'above':
      return [x, z, y]
    case 'side':
      return [z, -y, x]
    case 'ahead':
      return [x, -y, z]
    default:
      return [x, y, z]
  }
}

/** Paths of a file as they are to lie; in an upright plane the lowest point of all stands on the ground. */
export function laidPaths(paths: ReadPath[], lies: Lies, scale: number) {
  const out = paths.map((p) => {
    const { closed, points } = p.shape.spline!
    return {
      name: p.name.slice(0, 60) || 'Path',
      shape: {
        spline: {
          closed,
          points: points.map((q) => ({
            ...q,
            at: laid(q.at, lies, scale),
            ...(q.in ? { in: laid(q.in, lies, scale) } : {}),
            ...(q.out ? { out: laid(q.out, lies, scale) } : {}),
          })),
        },
      },
    }
  })
  if (lies === 'side' || lies === 'ahead') {
    const all = out.flatMap((p) => p.shape.spline.points)
    let lowest = Infinity
    for (const q of all) lowest = Math.min(lowest, q.at[1])
    for (const q of all) q.at[1] = Number((q.at[1] - lowest).toPrecision(12))
  }
  return out
}
