import { useThree } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { Matrix4, Quaternion, Vector3, type InstancedMesh } from 'three'
import { stride, wheelStride } from '../core/wire'
import { useBench } from '../stores/bench'
import { shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { useMaterials } from '../stores/materials'
import { useOutlines } from './Outlines'
import { useFinishes } from './finish'
import { Growing } from './Growing'
import { geometryOf, offset } from './Pieces'
import { Posed } from './Posed'

/** The wheels of belts, turning with what travels on them. */
export function Wheels({ roles }: { roles: Roles }) {
  const answer = useBench((b) => b.answer)
  return (
    <>
      {answer?.readout.paths.map(
        (p, i) =>
          p.wheels && (
            <Growing key={p.id} path={p.id}>
              <Posed space="paths" index={i}>
                <WheelsOf path={i} roles={roles} />
              </Posed>
            </Growing>
          ),
      )}
    </>
  )
}

/** The wheels of a path: those that are alike are drawn at once. */
function WheelsOf({ path, roles }: { path: number; roles: Roles }) {
  const names = useBench((b) => b.answer?.readout.wheelMeshes?.[path]?.join(' ') ?? '')
  const alike = useMemo(() => {
    const all = new Map<string, number[]>()
    names.split(' ').forEach((name, wheel) => all.set(name, [...(all.get(name) ?? []), wheel]))
    return [...all]
  }, [names])
  return (
    <>
      {alike.map(([name, wheels]) => (
        <Alike key={name} path={path} name={name} wheels={wheels} roles={roles} />
      ))}
    </>
  )
}

const at = new Vector3()
const turn = new Quaternion()
const one = new Vector3(1, 1, 1)
const matrix = new Matrix4()

function Alike({ path, name, wheels, roles }: { path: number; name: string; wheels: number[]; roles: Roles }) {
  const ref = useRef<InstancedMesh>(null)
  const invalidate = useThree((s) => s.invalidate)
  const mesh = useBench((b) => b.meshes.get(name))
  const geometry = useMemo(() => (mesh?.positions.length ? geometryOf(mesh) : null), [mesh])
  useEffect(() => () => geometry?.dispose(), [geometry])
  const kind = useBench((b) => b.answer?.readout.wheels ?? 0)
  const made = useMaterials()?.[kind]
  const finish = useFinishes(made ? [{ made, white: true }] : [], roles, true, offset)
  const count = wheels.length
  const outlines = useOutlines(geometry, count, roles.outline, 0.35)
  const [touched, passedBy] = useMemo(
    () => [shownColour(made?.colour ?? '#ffffff', roles, true), shownColour(made?.colour ?? '#ffffff', roles, false)],
    [roles, made],
  )
  const places = useMemo(() => new Float32Array(count * stride), [count])
  useLayoutEffect(() => {
    const put = () => {
      const all = useBench.getState().shot.wheels[path]
      const inst = ref.current
      if (!inst || !all || all.length < wheelStride * (Math.max(...wheels) + 1)) return
      wheels.forEach((wheel, i) => {
        const o = wheelStride * wheel
        places.set(all.subarray(o, o + 7), i * stride)
        places.fill(1, i * stride + 7, (i + 1) * stride)
        at.set(all[o]!, all[o + 1]!, all[o + 2])
        turn.set(all[o + 3]!, all[o + 4]!, all[o + 5]!, all[o + 6]!)
        inst.setMatrixAt(i, matrix.compose(at, turn, one))
        // A wheel that the belt passes by is paler.
        inst.setColorAt(i, all[o + 7] === 0 ? passedBy : touched)
      })
      inst.instanceMatrix.needsUpdate = true
      if (inst.instanceColor) inst.instanceColor.needsUpdate = true
      outlines?.place(places, count)
      invalidate()
    }
    put()
    return useBench.subscribe((now, before) => now.shot !== before.shot && put())
  }, [path, wheels, count, places, geometry, outlines, touched, passedBy, invalidate])
  if (!geometry) return null
  return (
    <>
      {outlines && <primitive object={outlines.object} />}
      <instancedMesh
        key={count}
        ref={ref}
        args={[geometry, undefined, count]}
        material={finish}
        frustumCulled={false}
        castShadow
        receiveShadow
        raycast={() => null}
      />
    </>
  )
}
