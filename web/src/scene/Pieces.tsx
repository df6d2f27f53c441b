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
import type { Roles } from '../ui/theme'
import { useOutlines } from './Outlines'
import { onLine } from './PathMarks'
import { distanceAt, follow } from './pointing'

const matrix = new Matrix4()
const position = new Vector3()
const rotation = new Quaternion()
const scale = new Vector3()
const colour = new Color()

export function geometryOf(m: MeshData): BufferGeometry {
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(m.positions, 3))
  g.setAttribute('normal', new BufferAttribute(m.normals, 3))
  g.setIndex(new BufferAttribute(m.indices, 1))
  return g
}

/** With more pieces than this the beads at the pivots would run together. */
const beadLimit = 90

/** Beyond this many pieces they cast no shadows, to keep the picture quick. */
const shadowLimit = 3000

/** One rig's pieces, drawn as instances of its part. */
export function Pieces({ rig, roles, size }: { rig: number; roles: Roles; size: number }) {
  const ref = useRef<InstancedMesh>(null)
  const invalidate = useThree((s) => s.invalidate)
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const readout = useBench((b) => b.answer?.readout.rigs[rig])
  const meshName = useBench((b) => {
    const r = b.answer?.doc.rigs[rig]
    const part = b.answer?.doc.parts.findIndex((p) => p.id === r?.part) ?? -1
    return b.answer?.readout.meshes[part]
  })
  const mesh = useBench((b) => (meshName ? b.meshes.get(meshName) : undefined))
  const line = useBench((b) => {
    const r = b.answer?.doc.rigs[rig]
    return b.answer?.paths[b.answer.doc.paths.findIndex((p) => p.id === r?.path)]
  })
  const chosen = useBench((b) => b.selected?.kind !== 'rig' || b.selected.id === readout?.id)
  const hovered = useView((v) => (chosen ? v.hoveredPiece : null))
  const geometry = useMemo(() => (mesh ? geometryOf(mesh) : null), [mesh])
  useEffect(() => () => geometry?.dispose(), [geometry])
  const count = readout?.count ?? 0
  const outlines = useOutlines(geometry, count, chosen ? roles.outline : roles.paleOutline, chosen ? 0.55 : 0.4)
  const beads = useRef<InstancedMesh>(null)
  const showBeads = chosen && count <= beadLimit && readout !== undefined

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
        ?.find((p) => p.rig === rig)
      if (!inst || !pieces) return
      const t = pieces.transforms
      const n = Math.min(pieces.distances.length, inst.instanceMatrix.count)
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
        for (let i = 0; i < n; i++) {
          const p = line ? onLine(line, d[i]!).at : position.set(t[i * stride]!, t[i * stride + 1]!, t[i * stride + 2])
          beads.current.setMatrixAt(i, matrix.makeTranslation(p.x, p.y, p.z))
        }
        beads.current.instanceMatrix.needsUpdate = true
      }
      invalidate()
    }
    place()
    return useBench.subscribe((now, before) => now.shown !== before.shown && place())
  }, [rig, invalidate, geometry, count, outlines, showBeads, line])

  useEffect(() => {
    const inst = ref.current
    if (!inst) return
    for (let i = 0; i < count; i++) {
      colour.set(chosen ? (i === 0 ? roles.orange : roles.piece) : roles.pale)
      if (i === hovered) colour.lerp(new Color(roles.kelp), 0.55)
      inst.setColorAt(i, colour)
    }
    if (inst.instanceColor) inst.instanceColor.needsUpdate = true
    invalidate()
  }, [count, chosen, hovered, roles, invalidate, geometry])

  function grab(e: ThreeEvent<PointerEvent>) {
    if (e.button !== 0 || e.instanceId === undefined || useBench.getState().tool.kind !== 'none') return
    e.stopPropagation()
    const id = readout!.id
    if (useBench.getState().selected?.id !== id) useBench.getState().select({ kind: 'rig', id })
    pullPiece(rig, e.instanceId, e.nativeEvent, (x, y, near) => {
      const { answer } = useBench.getState()
      const at = answer!.doc.paths.findIndex((p) => p.id === answer!.doc.rigs[rig]!.path)
      const info = answer!.readout.paths[at]!
      return distanceAt(camera, element, answer!.paths[at]!, x, y, near, info.length, info.closed)
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
        frustumCulled={false}
        castShadow={count <= shadowLimit}
        receiveShadow={count <= shadowLimit}
        onPointerDown={grab}
        onPointerMove={(e) => {
          if (!chosen || e.instanceId === undefined) return
          e.stopPropagation()
          useView.getState().hoverPiece(e.instanceId)
        }}
        onPointerOut={() => useView.getState().hoverPiece(null)}
      >
        <meshStandardMaterial
          roughness={0.78}
          metalness={0.06}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </instancedMesh>
    </>
  )
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
