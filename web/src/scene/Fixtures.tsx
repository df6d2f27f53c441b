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
import type { Roles } from '../look/theme'
import { useMaterials } from '../stores/materials'
import { groupsOn, useFinishes } from './finish'
import { geometryOf, offset } from './Pieces'
import { Posed } from './Posed'
import { shadeLower } from './lower'
import { rightClick } from './rightClick'

/** The object of a fixture in the scene, to be pointed at. */
export const fixtureObject = (scene: Scene, id: string) => scene.getObjectByName(`fixture:${id}`)

/** From a fixture's own axes to the world. */
export function fixtureMatrix(place: readonly number[]): Matrix4 {
  const [x, y, z, qx, qy, qz, qw] = place as [number, number, number, number, number, number, number]
  return new Matrix4().compose(new Vector3(x, y, z), new Quaternion(qx, qy, qz, qw), new Vector3(1, 1, 1))
}

const outer = { side: FrontSide, shadowSide: DoubleSide, ...offset }
const inner = { side: BackSide, shadowSide: DoubleSide, ...offset }

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
  const info = useBench((b) => b.answer?.readout.parts[part])
  const geometry = useMemo(() => {
    if (!mesh) return null
    const g = geometryOf(mesh)
    groupsOn(g, info)
    return g
  }, [mesh, info])
  // While an edge is looked for every edge of the mesh shows, else the sharp ones.
  const shape = useBench((b) => b.doc?.parts[part])
  const materials = useMaterials()
  const used = useBench((b) => b.answer?.readout.fixtures.find((f) => f.id === id)?.materials)
  const looks = (used ?? []).map((k) => ({ made: materials![k]!, tiles: info?.tiles }))
  const made = looks.length === 1 ? looks[0]!.made : undefined
  const up = shape?.up ?? '+y'
  const front = useFinishes(looks, roles, true, made?.under ? { ...outer, vertexColors: true } : outer)
  const back = useFinishes(looks, roles, true, made?.under ? { ...inner, vertexColors: true } : inner)
  useEffect(() => shadeLower(geometry, mesh, up, made, roles, true), [geometry, mesh, up, made, roles])
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
          material={side === FrontSide ? front : back}
          castShadow={side === FrontSide}
          receiveShadow={side === FrontSide}
          onContextMenu={rightClick('fixture', id)}
          onClick={(e) => {
            if (e.delta > 3 || useBench.getState().tool.kind !== 'none') return
            e.stopPropagation()
            useBench.getState().select({ kind: 'fixture', id })
          }}
        />
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
