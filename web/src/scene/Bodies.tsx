import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, Sphere, Vector3 } from 'three'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { MeshData } from '../core/wire'
import { shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { useMaterials } from '../stores/materials'
import { useFinishes } from './finish'
import { lowness } from './lower'
import { pullPiece } from './Pieces'
import { pickPin } from './Pins'
import { distanceAt } from './pointing'
import { worldLine } from './Posed'
import { rightClick } from './rightClick'

/** The triangles of one surface of a piece. */
interface Run {
  first: number
  count: number
  material: number
  tiles?: boolean
}

/** Each vertex has its own colour. */
const painted = { vertexColors: true }

/**
 * The surfaces of a rig: pieces that take the form of their path, or what its kind makes. One mesh; its vertices
 * come with each frame.
 */
export function Bodies({ rig, roles }: { rig: number; roles: Roles }) {
  const invalidate = useThree((s) => s.invalidate)
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const readout = useBench((b) => b.answer?.readout.rigs[rig])
  const own = useBench((b) => b.answer?.doc.parts.findIndex((p) => p.id === b.answer?.doc.rigs[rig]?.part) ?? -1)
  const names = useBench((b) => b.answer?.readout.meshes)
  const materials = useMaterials()
  const mould = readout?.made ?? 0
  const meshes = useBench((b) => b.meshes)
  const chosen = useBench(
    (b) => b.selected?.kind !== 'rig' || b.selected.id === readout?.id || b.also.includes(readout?.id ?? ''),
  )
  const filming = useView((v) => v.filming)
  const moulds = useBench((b) => b.answer?.readout.moulds[rig])
  const kinds = readout?.kinds
  const moulded = (moulds?.length ?? 0) > 0
  const count = moulded ? moulds!.length : (readout?.count ?? 0)

  const parts = useBench((b) => b.answer?.readout.parts)

  const made = useMemo(() => {
    // The triangles of every piece, one piece behind the other; faces tell which piece it is.
    const meshesOf = Array.from({ length: count }, (_, i) =>
      meshes.get((moulded ? moulds![i] : names?.[kinds?.[i] ?? own]) ?? ''),
    )
    if (meshesOf.some((p) => !p) || count === 0) return null
    const all = meshesOf as MeshData[]
    const indices = new Uint32Array(all.reduce((n, p) => n + p.indices.length, 0))
    const ends: number[] = []
    const runs: Run[] = []
    let at = 0
    let vertices = 0
    all.forEach((p, i) => {
      for (let k = 0; k < p.indices.length; k++) indices[at + k] = p.indices[k]! + vertices
      const info = moulded ? undefined : parts?.[kinds?.[i] ?? own]
      const surfaces = info?.groups?.length ? info.groups : [{ first: 0, count: p.indices.length }]
      surfaces.forEach((g, k) =>
        runs.push({
          first: at + g.first,
          count: g.count,
          material: moulded ? mould : info!.materials[k]!,
          tiles: info?.tiles,
        }),
      )
      at += p.indices.length
      vertices += p.positions.length / 3
      ends.push(at / 3)
    })
    const geometry = new BufferGeometry()
    geometry.setIndex(new BufferAttribute(indices, 1))
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(3 * vertices), 3))
    geometry.setAttribute('normal', new BufferAttribute(new Int16Array(3 * vertices), 3, true))
    geometry.setAttribute('color', new BufferAttribute(new Float32Array(3 * vertices), 3))
    if (all.every((p) => p.uvs.length)) {
      const uv = new Float32Array(2 * vertices)
      let from = 0
      for (const p of all) {
        uv.set(p.uvs, from)
        from += p.uvs.length
      }
      geometry.setAttribute('uv', new BufferAttribute(uv, 2))
    }
    const used = [...new Map(runs.map((r) => [r.material, r])).values()]
    if (used.length > 1) {
      for (const r of runs)
        geometry.addGroup(
          r.first,
          r.count,
          used.findIndex((u) => u.material === r.material),
        )
    }
    // It takes the pointer wherever it is.
    geometry.boundingSphere = new Sphere(new Vector3(), Infinity)
    return { geometry, vertices, ends, runs, used, indices, parts: all }
  }, [meshes, names, kinds, own, count, moulds, moulded, mould, parts])
  const finishes = useFinishes(
    materials && made
      ? made.used.map((u) => ({ made: materials[u.material]!, white: true, drawn: readout?.drawn, tiles: u.tiles }))
      : [],
    roles,
    chosen,
    painted,
  )
  const up = useBench((b) => b.answer?.doc.parts[own]?.up ?? '+y')
  useEffect(() => () => made?.geometry.dispose(), [made])

  useEffect(() => {
    if (!made) return
    if (!materials) return
    // The first piece of a row is tinted, so that the eye can follow it.
    const colours = made.geometry.getAttribute('color') as BufferAttribute
    const shown = (c: string) => shownColour(c, roles, chosen)
    const mixed = new Color()
    const shades = new Map<number, { rest: Color; under?: Color }>()
    for (const { material } of made.used) {
      const m = materials[material]!
      shades.set(material, { rest: shown(m.colour), under: m.under ? shown(m.under) : undefined })
    }
    let piece = 0
    let from = 0 // its first vertex
    let low = lowness(made.parts[0]!, up)
    let tint = first(0)
    for (const r of made.runs) {
      while (r.first >= 3 * made.ends[piece]!) {
        from += made.parts[piece]!.positions.length / 3
        piece++
        low = lowness(made.parts[piece]!, up)
        tint = first(piece)
      }
      const { rest, under } = shades.get(r.material)!
      for (let k = r.first; k < r.first + r.count; k++) {
        const v = made.indices[k]!
        const top = tint ?? rest
        const c = under ? mixed.copy(top).lerp(under, low(v - from)) : top
        colours.setXYZ(v, c.r, c.g, c.b)
      }
    }
    function first(piece: number) {
      if (!filming && piece === 0 && chosen && readout?.row && count > 1) return shown(roles.orange)
      const tinted = readout?.colours?.[piece]
      return tinted ? shown(tinted) : undefined
    }
    colours.needsUpdate = true
    invalidate()
  }, [made, materials, readout?.colours, filming, count, chosen, readout?.row, up, roles, invalidate])

  useEffect(() => {
    if (!made) return
    function place() {
      const shape = useBench.getState().frames.get(useClock.getState().frame)?.bodies[rig]
      if (!shape || !made || shape.positions.length !== 3 * made.vertices) return
      const p = made.geometry.getAttribute('position') as BufferAttribute
      const n = made.geometry.getAttribute('normal') as BufferAttribute
      p.array = shape.positions
      n.array = shape.normals
      p.needsUpdate = n.needsUpdate = true
      invalidate()
    }
    place()
    return useBench.subscribe((now, before) => now.shot !== before.shot && place())
  }, [made, rig, invalidate])

  function grab(e: ThreeEvent<PointerEvent>) {
    const { tool } = useBench.getState()
    if (e.button === 0 && tool.kind === 'pins' && tool.rig === readout?.id && e.face) {
      e.stopPropagation()
      pickPin(tool.rig, [e.face.a, e.face.b, e.face.c], e.point.toArray())
      return
    }
    if (e.button !== 0 || !made || tool.kind !== 'none') return
    e.stopPropagation()
    const piece = Math.max(
      made.ends.findIndex((end) => (e.faceIndex ?? 0) < end),
      0,
    )
    const id = readout!.id
    if (useBench.getState().selected?.id !== id) useBench.getState().select({ kind: 'rig', id })
    pullPiece(rig, moulded ? 0 : piece, e.nativeEvent, (x, y, near) => {
      const { answer } = useBench.getState()
      const at = answer!.doc.paths.findIndex((p) => p.id === answer!.doc.rigs[rig]!.path)
      const info = answer!.readout.paths[at]!
      return distanceAt(camera, element, worldLine(at)!, x, y, near, info.length, info.closed)
    })
  }

  if (!made) return null
  return (
    <mesh
      geometry={made.geometry}
      material={finishes}
      frustumCulled={false}
      castShadow
      receiveShadow
      onPointerDown={grab}
      onContextMenu={rightClick('rig', readout!.id)}
    />
  )
}
