import { useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef } from 'react'
import {
  BufferAttribute,
  BufferGeometry,
  Matrix4,
  MeshBasicMaterial,
  Quaternion,
  Vector3,
  type InstancedMesh,
  type Mesh,
} from 'three'
import { stride } from '../core/wire'
import { useBench } from '../stores/bench'
import { chosenRig } from '../stores/chosen'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { geometryOf } from './Pieces'

/** How many ghosts there are each way. */
const each = 2

/** The chosen rig as it was and will be, pale, some frames before and after. */
export function Ghosts({ roles }: { roles: Roles }) {
  const on = useView((v) => v.ghosts)
  const rig = useBench((b) => chosenRig(b)?.index ?? -1)
  const body = useBench((b) => !!b.answer?.readout.rigs[rig]?.body)
  const first = useClock((c) => c.first)
  const last = useClock((c) => c.last)
  if (!on || rig < 0) return null
  // A twelfth of the range apart.
  const step = Math.max(Math.round((last - first + 1) / 12), 1)
  const shifts = Array.from({ length: 2 * each }, (_, i) => (i < each ? i - each : i - each + 1) * step)
  return (
    <>
      {shifts.map((by, i) => (
        <Ghost key={`${rig} ${i}`} rig={rig} by={by} body={body} colour={by < 0 ? roles.orange : roles.slate} />
      ))}
    </>
  )
}

function Ghost({ rig, by, body, colour }: { rig: number; by: number; body: boolean; colour: string }) {
  const invalidate = useThree((s) => s.invalidate)
  const instances = useRef<InstancedMesh>(null)
  const bent = useRef<Mesh>(null)
  const info = useBench((b) => b.answer?.readout.rigs[rig])
  const name = useBench((b) => {
    const part = b.answer?.doc.parts.findIndex((p) => p.id === b.answer?.doc.rigs[rig]?.part) ?? -1
    return b.answer?.readout.meshes[part]
  })
  const mesh = useBench((b) => (name ? b.meshes.get(name) : undefined))
  const count = info?.count ?? 0
  const geometry = useMemo(() => {
    if (!mesh) return null
    if (!body) return geometryOf(mesh)
    const g = new BufferGeometry()
    g.setIndex(new BufferAttribute(mesh.indices, 1))
    g.setAttribute('position', new BufferAttribute(new Float32Array(mesh.positions.length), 3))
    return g
  }, [mesh, body])
  useEffect(() => () => geometry?.dispose(), [geometry])
  const material = useMemo(
    () =>
      new MeshBasicMaterial({
        color: colour,
        transparent: true,
        opacity: 0.16,
        depthWrite: false,
        polygonOffset: true,
        polygonOffsetFactor: 3,
        polygonOffsetUnits: 3,
      }),
    [colour],
  )
  useEffect(() => () => material.dispose(), [material])

  useEffect(() => {
    const [matrix, p, q, s] = [new Matrix4(), new Vector3(), new Quaternion(), new Vector3()]
    function place() {
      const { first, last, frame } = useClock.getState()
      const f = frame + by
      const shot = f < first || f > last ? undefined : useBench.getState().frames.get(f)
      const pieces = shot?.pieces.find((x) => x.rig === rig)
      const shape = shot?.bodies[rig]
      if (bent.current && geometry) {
        const of = geometry.getAttribute('position') as BufferAttribute
        bent.current.visible = !!shape && shape.positions.length === of.array.length
        if (bent.current.visible) {
          of.array = shape!.positions
          of.needsUpdate = true
        }
      }
      const inst = instances.current
      if (inst) {
        const t = pieces?.transforms
        inst.count = t ? Math.min(pieces.distances.length, count) : 0
        for (let i = 0; t && i < inst.count; i++) {
          const o = i * stride
          p.fromArray(t, o)
          q.fromArray(t, o + 3)
          s.fromArray(t, o + 7)
          inst.setMatrixAt(i, matrix.compose(p, q, s))
        }
        inst.instanceMatrix.needsUpdate = true
      }
      invalidate()
    }
    place()
    return useBench.subscribe((now, before) => {
      if (now.shot !== before.shot || now.filled !== before.filled) place()
    })
  }, [rig, by, geometry, count, invalidate])

  if (!geometry || count === 0) return null
  return body ? (
    <mesh ref={bent} geometry={geometry} material={material} frustumCulled={false} raycast={() => null} />
  ) : (
    <instancedMesh
      key={count}
      ref={instances}
      args={[geometry, material, count]}
      frustumCulled={false}
      raycast={() => null}
    />
  )
}
