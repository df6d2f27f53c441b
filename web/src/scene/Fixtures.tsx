import { useThree } from '@react-three/fiber'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import {
  BackSide,
  BufferGeometry,
  DoubleSide,
  EdgesGeometry,
  Float32BufferAttribute,
  FrontSide,
  Matrix4,
  Quaternion,
  Vector3,
  type Scene,
} from 'three'
import { wireQuery } from '../api/client'
import { useBench } from '../stores/bench'
import { materialOf, shownColour } from '../look/materials'
import type { Roles } from '../look/theme'
import { geometryOf } from './Pieces'
import { Posed } from './Posed'
import { rightClick } from './rightClick'

/** The object of a fixture in the scene, to be pointed at. */
export const fixtureObject = (scene: Scene, id: string) => scene.getObjectByName(`fixture:${id}`)

/** From a fixture's own axes to the world. */
export function fixtureMatrix(place: readonly number[]): Matrix4 {
  const [x, y, z, qx, qy, qz, qw] = place as [number, number, number, number, number, number, number]
  return new Matrix4().compose(new Vector3(x, y, z), new Quaternion(qx, qy, qz, qw), new Vector3(1, 1, 1))
}

/** What stands in the scene. */
export function Fixtures({ roles }: { roles: Roles }) {
  const fixtures = useBench((b) => b.answer?.readout.fixtures)
  return (
    <>
      {fixtures?.map((f, i) => (
        <Posed key={f.id} space="fixtures" index={i} name={`fixture:${f.id}`}>
          <FixtureMesh id={f.id} part={f.part} roles={roles} />
        </Posed>
      ))}
    </>
  )
}

function FixtureMesh({ id, part, roles }: { id: string; part: number; roles: Roles }) {
  const name = useBench((b) => b.answer?.readout.meshes[part])
  const mesh = useBench((b) => (name ? b.meshes.get(name) : undefined))
  const chosen = useBench((b) => b.selected?.kind === 'fixture' && b.selected.id === id)
  const wired = useBench((b) => b.tool.kind === 'edges' && b.tool.fixture === id)
  const invalidate = useThree((s) => s.invalidate)
  const geometry = useMemo(() => (mesh ? geometryOf(mesh) : null), [mesh])
  // While an edge is looked for every edge of the mesh shows, else the sharp ones.
  const shape = useBench((b) => b.doc?.parts[part])
  const riding = useBench((b) => !!(b.doc?.fixtures?.find((f) => f.id === id)?.carrier ?? b.doc?.master))
  const made = materialOf(shape?.shape, riding ? 'riding' : 'still', shape?.name)
  const wire = useQuery({ ...wireQuery(shape!), enabled: wired && !!shape }).data
  const edges = useMemo(() => {
    if (wired && wire) return new BufferGeometry().setAttribute('position', new Float32BufferAttribute(wire, 3))
    return geometry ? new EdgesGeometry(geometry, 28) : null
  }, [geometry, wired, wire])
  useEffect(() => () => geometry?.dispose(), [geometry])
  useEffect(() => () => edges?.dispose(), [edges])
  useEffect(() => invalidate(), [geometry, chosen, wired, roles, invalidate])
  if (!geometry || !edges) return null
  return (
    <>
      {/* Inner sides apart: shadows are set off along the outer normal and would speckle them. */}
      {([FrontSide, BackSide] as const).map((side) => (
        <mesh
          key={side}
          geometry={geometry}
          castShadow={side === FrontSide}
          receiveShadow={side === FrontSide}
          onContextMenu={rightClick('fixture', id)}
          onClick={(e) => {
            if (e.delta > 3 || useBench.getState().tool.kind !== 'none') return
            e.stopPropagation()
            useBench.getState().select({ kind: 'fixture', id })
          }}
        >
          <meshStandardMaterial
            color={shownColour(made.colour, roles, true)}
            roughness={made.roughness}
            metalness={made.metalness}
            side={side}
            shadowSide={DoubleSide}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
      ))}
      <lineSegments geometry={edges} raycast={() => null}>
        <lineBasicMaterial
          color={wired ? roles.slate : chosen ? roles.chosenOutline : roles.paleOutline}
          transparent
          opacity={wired ? 0.8 : 0.7}
        />
      </lineSegments>
    </>
  )
}
