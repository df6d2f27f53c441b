import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import type { InstancedMesh } from 'three'
import { BufferAttribute, BufferGeometry, Color, Matrix4, Quaternion, Sphere, Vector3 } from 'three'
import type { MeshData } from '../core/wire'
import { stride } from '../core/wire'
import { shifted } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import { shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { useMaterials } from '../stores/materials'
import { groupsOn, useFinishes } from './finish'
import { useOutlines } from './Outlines'
import { shadeLower } from './lower'
import { onLine } from './PathMarks'
import { distanceAt, follow } from './pointing'
import { worldLine } from './Posed'
import { rightClick } from './rightClick'

const matrix = new Matrix4()
const position = new Vector3()
const rotation = new Quaternion()
const scale = new Vector3()
const colour = new Color()

export function geometryOf(m: MeshData): BufferGeometry {
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(m.positions, 3))
  g.setAttribute('normal', new BufferAttribute(m.normals, 3))
  if (m.uvs.length) g.setAttribute('uv', new BufferAttribute(m.uvs, 2))
  g.setIndex(new BufferAttribute(m.indices, 1))
  return g
}

/** The same for a thing whose lower side has another colour. */
export const lower = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1, vertexColors: true }

/** Faces lie a little behind their outlines. */
export const offset = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 }

/** With more pieces than this the beads at the pivots would run together. */
const beadLimit = 90

/** Beyond this many pieces they cast no shadows, to keep the picture quick. */
const shadowLimit = 3000

/** One rig's pieces, drawn as instances of their parts. */
export function Pieces({ rig, roles, size }: { rig: number; roles: Roles; size: number }) {
  const readout = useBench((b) => b.answer?.readout.rigs[rig])
  const own = useBench((b) => {
    const r = b.answer?.doc.rigs[rig]
    return b.answer?.doc.parts.findIndex((p) => p.id === r?.part) ?? -1
  })
  const parts = useBench((b) => b.answer?.readout.parts)
  const sets = useMemo(() => {
    const alike = new Map<string, { part: number; tint?: string; members: number[] }>()
    const kinds = readout?.kinds ?? Array.from({ length: readout?.count ?? 0 }, () => own)
    kinds.forEach((part, i) => {
      // Of a part with several surfaces those of one tint are drawn together; else each has its colour.
      const tint = (parts?.[part]?.groups?.length ?? 0) > 1 ? readout?.colours?.[i] || undefined : undefined
      const key = `${part} ${tint}`
      const set = alike.get(key) ?? { part, tint, members: [] }
      set.members.push(i)
      alike.set(key, set)
    })
    return [...alike]
  }, [readout?.kinds, readout?.count, readout?.colours, own, parts])
  return (
    <>
      {sets.map(([key, set]) => (
        <PieceSet key={key} rig={rig} {...set} roles={roles} size={size} />
      ))}
    </>
  )
}

/** The pieces of a rig that are of one part, and of one tint; members are their numbers. */
function PieceSet({
  rig,
  part,
  tint,
  members,
  roles,
  size,
}: {
  rig: number
  part: number
  tint?: string
  members: number[]
  roles: Roles
  size: number
}) {
  const ref = useRef<InstancedMesh>(null)
  const invalidate = useThree((s) => s.invalidate)
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const readout = useBench((b) => b.answer?.readout.rigs[rig])
  const meshName = useBench((b) => b.answer?.readout.meshes[part])
  const mesh = useBench((b) => (meshName ? b.meshes.get(meshName) : undefined))
  const path = useBench((b) => b.answer?.doc.paths.findIndex((p) => p.id === b.answer?.doc.rigs[rig]?.path) ?? -1)
  const chosen = useBench(
    (b) => b.selected?.kind !== 'rig' || b.selected.id === readout?.id || b.also.includes(readout?.id ?? ''),
  )
  // Marked while a rig or path is worked on. With a material, a camera or nothing chosen each piece looks as
  // it is made.
  const marked = useBench((b) => b.selected?.kind === 'rig' || b.selected?.kind === 'path') && chosen
  const row = readout?.row
  const info = useBench((b) => b.answer?.readout.parts[part])
  const materials = useMaterials()
  const made = materials?.[info?.materials[0] ?? 0]
  const several = (info?.groups?.length ?? 0) > 1
  const finishes = useFinishes(
    (info?.materials ?? []).map((k) => ({ made: materials![k]!, tint, white: !several, tiles: info!.tiles })),
    roles,
    chosen,
    made?.under ? lower : offset,
  )
  const plain = made?.colour ?? '#ffffff'
  const filming = useView((v) => v.filming)
  const hovered = useView((v) => (chosen ? v.hoveredPiece : null))
  const geometry = useMemo(() => {
    if (!mesh) return null
    const g = geometryOf(mesh)
    groupsOn(g, info)
    return g
  }, [mesh, info])
  const up = useBench((b) => b.answer?.doc.parts[part]?.up ?? '+y')
  useEffect(
    () => shadeLower(geometry, mesh, up, several ? undefined : made, roles, chosen),
    [geometry, mesh, up, several, made, roles, chosen],
  )
  useEffect(() => () => geometry?.dispose(), [geometry])
  const count = members.length
  const [outline, strength] = filming
    ? [roles.outline, 0.35]
    : chosen
      ? marked
        ? [roles.chosenOutline, 0.55]
        : [roles.outline, 0.35]
      : [roles.paleOutline, 0.4]
  const outlines = useOutlines(geometry, count, outline, strength)
  const beads = useRef<InstancedMesh>(null)
  const gathered = useRef<Float32Array>(new Float32Array(0))
  const showBeads = !filming && marked && count <= beadLimit && readout !== undefined

  useLayoutEffect(() => {
    // Every instance takes the pointer; their common sphere need not be kept.
    if (ref.current) ref.current.boundingSphere = new Sphere(new Vector3(), Infinity)
  }, [geometry, count])

  useEffect(() => {
    function place() {
      const inst = ref.current
      const pieces = useBench
        .getState()
        .frames.get(useClock.getState().frame)
        ?.pieces.find((p) => p.rig === rig)
      if (!inst || !pieces) return
      // All of them as they came, or only those of this part.
      let t = pieces.transforms
      if (members.length !== pieces.distances.length) {
        t = gather(t, members, gathered.current)
        gathered.current = t
      }
      const n = Math.min(members.length, pieces.distances.length, inst.instanceMatrix.count)
      for (let i = 0; i < n; i++) {
        const o = i * stride
        position.set(t[o]!, t[o + 1]!, t[o + 2])
        rotation.set(t[o + 3]!, t[o + 4]!, t[o + 5]!, t[o + 6]!)
        scale.set(t[o + 7]!, t[o + 8]!, t[o + 9])
        inst.setMatrixAt(i, matrix.compose(position, rotation, scale))
      }
      inst.count = n
      inst.instanceMatrix.needsUpdate = true
      outlines?.place(t, n)
      if (beads.current) {
        const d = pieces.distances
        const line = worldLine(path)
        for (let i = 0; i < n; i++) {
          const p = line
            ? onLine(line, d[members[i]!]!).at
            : position.set(t[i * stride]!, t[i * stride + 1]!, t[i * stride + 2])
          beads.current.setMatrixAt(i, matrix.makeTranslation(p.x, p.y, p.z))
        }
        beads.current.instanceMatrix.needsUpdate = true
      }
      invalidate()
    }
    place()
    return useBench.subscribe((now, before) => now.shot !== before.shot && place())
  }, [rig, invalidate, geometry, members, outlines, showBeads, path])

  useEffect(() => {
    const inst = ref.current
    if (!inst) return
    const own = several ? new Color('#ffffff') : shownColour(plain, roles, chosen)
    for (let i = 0; i < count; i++) {
      const tinted = several ? undefined : readout?.colours?.[members[i]!]
      colour.copy(tinted ? shownColour(tinted, roles, chosen) : own)
      if (!filming && chosen && row && members[i] === 0) colour.set(roles.orange)
      if (members[i] === hovered) colour.lerp(new Color(roles.kelp), 0.55)
      inst.setColorAt(i, colour)
    }
    if (inst.instanceColor) inst.instanceColor.needsUpdate = true
    invalidate()
  }, [count, members, chosen, row, hovered, plain, several, readout?.colours, filming, roles, invalidate, geometry])

  function grab(e: ThreeEvent<PointerEvent>) {
    if (e.button !== 0 || e.instanceId === undefined || useBench.getState().tool.kind !== 'none') return
    e.stopPropagation()
    const id = readout!.id
    if (useBench.getState().selected?.id !== id) useBench.getState().select({ kind: 'rig', id })
    pullPiece(rig, members[e.instanceId]!, e.nativeEvent, (x, y, near) => {
      const { answer } = useBench.getState()
      const at = answer!.doc.paths.findIndex((p) => p.id === answer!.doc.rigs[rig]!.path)
      const info = answer!.readout.paths[at]!
      return distanceAt(camera, element, worldLine(at)!, x, y, near, info.length, info.closed)
    })
  }

  if (!geometry || count === 0) return null
  return (
    <>
      {outlines && <primitive object={outlines.object} />}
      {showBeads && (
        <instancedMesh
          key={`beads${count}`}
          ref={beads}
          args={[undefined, undefined, count]}
          frustumCulled={false}
          renderOrder={4}
          raycast={() => null}
        >
          <sphereGeometry args={[Math.min(size * 0.0042, (readout?.pitch ?? 1) * 0.09), 12, 8]} />
          <meshBasicMaterial color={roles.raised} depthTest={false} transparent />
        </instancedMesh>
      )}
      <instancedMesh
        key={count}
        ref={ref}
        args={[geometry, undefined, count]}
        material={finishes}
        frustumCulled={false}
        castShadow={count <= shadowLimit}
        receiveShadow={count <= shadowLimit}
        onPointerDown={grab}
        onContextMenu={rightClick('rig', readout?.id)}
        onPointerMove={(e) => {
          if (!chosen || e.instanceId === undefined) return
          e.stopPropagation()
          useView.getState().hoverPiece(members[e.instanceId]!)
        }}
        onPointerOut={() => useView.getState().hoverPiece(null)}
      />
    </>
  )
}

/** The transforms of some of the pieces, in one row. */
function gather(all: Float32Array, members: number[], into: Float32Array): Float32Array {
  const out = into.length === members.length * stride ? into : new Float32Array(members.length * stride)
  members.forEach((m, i) => out.set(all.subarray(m * stride, (m + 1) * stride), i * stride))
  return out
}

/**
 * Pulls a piece along its path: the rig's travel follows the pointer, as its
 * constant, its start, or a key at the play head. `where` turns a place on the
 * screen into a distance near another.
 */
export function pullPiece(
  rig: number,
  piece: number,
  from: { clientX: number; clientY: number },
  where: (x: number, y: number, near: number) => number,
) {
  useView.setState({ lastPiece: piece })
  const bench = useBench.getState()
  const frame = useClock.getState().frame
  const pieces = bench.shown.find((p) => p.rig === rig)
  const info = bench.answer?.readout
  const doc = bench.base
  if (!pieces || !info || !doc) return
  useClock.getState().pause()
  const { name, travel } = doc.rigs[rig]!
  const path = info.paths[doc.paths.findIndex((p) => p.id === doc.rigs[rig]!.path)]!
  const start = pieces.distances[piece]!
  // Where on the path it was taken hold of, so that it does not jump to the pointer.
  const grabbed = where(from.clientX, from.clientY, start)
  let last = grabbed
  let turned = 0
  useView.getState().setPulling(true)
  follow(
    (e) => {
      const s = where(e.clientX, e.clientY, last)
      // Over the seam the distance starts again; the travel goes on.
      if (path.closed && s - last < -path.length / 2) turned += path.length
      if (path.closed && s - last > path.length / 2) turned -= path.length
      last = s
      const delta = s + turned - grabbed
      bench.preview((d) => {
        d.rigs[rig]!.travel = shifted(travel, delta, frame, pieces.travel)
      })
    },
    (kept) => {
      useView.getState().setPulling(false)
      if (kept) bench.commit(`pull ${name} along`)
      else bench.cancel()
    },
  )
}
