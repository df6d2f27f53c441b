import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color, Sphere, Vector3 } from 'three'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import type { MeshData } from '../core/wire'
import { materialOf, matting, rope, shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { pullPiece } from './Pieces'
import { pickPin } from './Pins'
import { distanceAt } from './pointing'
import { worldLine } from './Posed'
import { rightClick } from './rightClick'

/** The surfaces of a rig, pieces that take the form of their path or what its kind makes: one mesh, its vertices as they come. */
export function Bodies({ rig, roles }: { rig: number; roles: Roles }) {
  const invalidate = useThree((s) => s.invalidate)
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const readout = useBench((b) => b.answer?.readout.rigs[rig])
  const own = useBench((b) => b.answer?.doc.parts.findIndex((p) => p.id === b.answer?.doc.rigs[rig]?.part) ?? -1)
  const names = useBench((b) => b.answer?.readout.meshes)
  const meshes = useBench((b) => b.meshes)
  const chosen = useBench(
    (b) => b.selected?.kind !== 'rig' || b.selected.id === readout?.id || b.also.includes(readout?.id ?? ''),
  )
  const train = useBench((b) => b.answer?.doc.rigs[rig]?.train !== undefined)
  const moulds = useBench((b) => b.answer?.readout.moulds[rig])
  const kinds = readout?.kinds
  const moulded = (moulds?.length ?? 0) > 0
  const count = moulded ? moulds!.length : (readout?.count ?? 0)

  const made = useMemo(() => {
    // The triangles of every piece, one piece behind the other; faces tell which piece it is.
    const parts = Array.from({ length: count }, (_, i) =>
      meshes.get((moulded ? moulds![i] : names?.[kinds?.[i] ?? own]) ?? ''),
    )
    if (parts.some((p) => !p) || count === 0) return null
    const total = parts.reduce((n, p) => n + p!.indices.length, 0)
    const indices = new Uint32Array(total)
    const ends: number[] = []
    let at = 0
    let vertices = 0
    for (const p of parts) {
      for (let k = 0; k < p!.indices.length; k++) indices[at + k] = p!.indices[k]! + vertices
      at += p!.indices.length
      vertices += p!.positions.length / 3
      ends.push(at / 3)
    }
    const geometry = new BufferGeometry()
    geometry.setIndex(new BufferAttribute(indices, 1))
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(3 * vertices), 3))
    geometry.setAttribute('normal', new BufferAttribute(new Int16Array(3 * vertices), 3, true))
    geometry.setAttribute('color', new BufferAttribute(new Float32Array(3 * vertices), 3))
    // It takes the pointer wherever it is.
    geometry.boundingSphere = new Sphere(new Vector3(), Infinity)
    return {
      geometry,
      vertices,
      ends,
      first: count > 1 ? parts[0]!.positions.length / 3 : 0,
      parts: parts as MeshData[],
    }
  }, [meshes, names, kinds, own, count, moulds, moulded])
  const looks = useBench((b) =>
    moulded ? (b.answer?.doc.rigs[rig]?.drum ? rope : matting) : materialOf(b.answer?.doc.parts[own]?.shape),
  )
  const up = useBench((b) => b.answer?.doc.parts[own]?.up ?? '+y')
  useEffect(() => () => made?.geometry.dispose(), [made])

  useEffect(() => {
    if (!made) return
    // The first piece of a train is tinted, so that the eye can follow it.
    const colours = made.geometry.getAttribute('color') as BufferAttribute
    const shown = (c: string) => shownColour(c, roles, chosen)
    const tint = shown(chosen && train ? roles.orange : looks.colour)
    const [rest, belly] = [shown(looks.colour), shown(looks.belly ?? looks.colour)]
    const mixed = new Color()
    let v = 0
    for (const p of made.parts) {
      const low = lowness(p, up)
      for (let k = 0; k < p.positions.length / 3; k++, v++) {
        const c = v < made.first ? tint : looks.belly ? mixed.copy(rest).lerp(belly, low(k)) : rest
        colours.setXYZ(v, c.r, c.g, c.b)
      }
    }
    colours.needsUpdate = true
    invalidate()
  }, [made, chosen, train, looks, up, roles, invalidate])

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
      frustumCulled={false}
      castShadow
      receiveShadow
      onPointerDown={grab}
      onContextMenu={rightClick('rig', readout!.id)}
    >
      <meshStandardMaterial vertexColors roughness={looks.roughness} metalness={looks.metalness} />
    </mesh>
  )
}

/** Tells of each vertex of a part how far down it is: 1 at the bottom, 0 from the middle up. */
function lowness(p: MeshData, up: string): (vertex: number) => number {
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
