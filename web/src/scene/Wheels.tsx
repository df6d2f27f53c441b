import { useThree } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { EdgesGeometry, type Group } from 'three'
import { wheelStride } from '../core/wire'
import { useBench } from '../stores/bench'
import type { Roles } from '../look/theme'
import { geometryOf } from './Pieces'
import { Posed } from './Posed'

/** The wheels of belts, turning with what travels on them. */
export function Wheels({ roles }: { roles: Roles }) {
  const answer = useBench((b) => b.answer)
  return (
    <>
      {answer?.readout.paths.map(
        (p, i) =>
          p.wheels && (
            <Posed key={p.id} space="paths" index={i}>
              {p.wheels.map((_, k) => (
                <Wheel key={k} path={i} wheel={k} roles={roles} />
              ))}
            </Posed>
          ),
      )}
    </>
  )
}

function Wheel({ path, wheel, roles }: { path: number; wheel: number; roles: Roles }) {
  const ref = useRef<Group>(null)
  const invalidate = useThree((s) => s.invalidate)
  const name = useBench((b) => b.answer?.readout.wheelMeshes?.[path]?.[wheel])
  const mesh = useBench((b) => (name ? b.meshes.get(name) : undefined))
  const touches = useBench((b) => (b.shot.wheels[path]?.[wheelStride * wheel + 7] ?? 1) !== 0)
  const geometry = useMemo(() => (mesh?.positions.length ? geometryOf(mesh) : null), [mesh])
  const edges = useMemo(() => (geometry ? new EdgesGeometry(geometry, 28) : null), [geometry])
  useEffect(() => () => geometry?.dispose(), [geometry])
  useEffect(() => () => edges?.dispose(), [edges])
  useLayoutEffect(() => {
    const put = () => {
      const all = useBench.getState().shot.wheels[path]
      const o = wheelStride * wheel
      if (!ref.current || !all || all.length < o + wheelStride) return
      ref.current.position.set(all[o]!, all[o + 1]!, all[o + 2])
      ref.current.quaternion.set(all[o + 3]!, all[o + 4]!, all[o + 5]!, all[o + 6]!)
      invalidate()
    }
    put()
    return useBench.subscribe((now, before) => now.shot !== before.shot && put())
  }, [path, wheel, geometry, invalidate])
  useEffect(() => invalidate(), [touches, roles, invalidate])
  if (!geometry || !edges) return null
  return (
    <group ref={ref}>
      <mesh geometry={geometry} castShadow receiveShadow raycast={() => null}>
        <meshStandardMaterial
          color={touches ? roles.fixture : roles.pale}
          roughness={0.85}
          polygonOffset
          polygonOffsetFactor={1}
          polygonOffsetUnits={1}
        />
      </mesh>
      <lineSegments geometry={edges} raycast={() => null}>
        <lineBasicMaterial color={roles.outline} transparent opacity={0.35} />
      </lineSegments>
    </group>
  )
}
