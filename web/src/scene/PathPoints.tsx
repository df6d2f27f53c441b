import { useThree, type ThreeEvent } from '@react-three/fiber'
import { useState } from 'react'
import { Plane, Vector3 } from 'three'
import type { Document } from '../core/page.generated'
import { handlesOf, putPoint, type Vec3 } from '../core/forms'
import { pullHandle } from '../core/handles'
import { useBench } from '../stores/bench'
import { chosenPath } from '../stores/chosen'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { fixtureObject } from './Fixtures'
import { follow, onObject, onPlane, pullPlane } from './pointing'
import { Posed, poseMatrix } from './Posed'
import { SteadySize } from './SteadySize'
import { Line } from './Line'

const sub = (a: Vector3, b: Vec3): Vec3 => [a.x - b[0], a.y - b[1], a.z - b[2]]

/** The points and handles of the chosen path, to be pulled. */
export function PathPoints({ roles }: { roles: Roles }) {
  const index = useBench((b) => chosenPath(b)?.index ?? -1)
  return (
    <Posed space="paths" index={index}>
      <Points roles={roles} />
    </Posed>
  )
}

function Points({ roles }: { roles: Roles }) {
  const index = useBench((b) => chosenPath(b)?.index ?? -1)
  const shape = useBench((b) => chosenPath(b)?.path.shape)
  const shown = useBench((b) => b.selected?.kind === 'path' || b.openStep === 'path')
  const readout = useBench((b) => b.answer?.readout)
  const resolved = readout?.paths[index]?.points
  const scene = useThree((s) => s.scene)
  const normal = useBench((b) => {
    const info = b.answer?.readout.paths[index]
    return info && info.offPlane < 1e-6 * info.length ? info.normal : null
  })
  const point = useBench((b) => b.point)
  const grip = useBench((b) => (b.grip?.point === b.point ? b.grip?.side : undefined))
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const [hover, setHover] = useState('')
  const tool = useBench((b) => b.tool.kind)
  if (!shape || !shown || tool !== 'none') return null
  // A spline's handles are told by the server, and where points on a surface are.
  const given = handlesOf(shape)
  const points: { at: Vec3; in?: Vec3; out?: Vec3 }[] =
    given && resolved?.length === given.length
      ? resolved.map((p) => (shape.spline ? p : { at: p.at }))
      : shape.spline || shape.over
        ? []
        : (given ?? []).map((at) => ({ at }))

  function pull(e: ThreeEvent<PointerEvent>, i: number, what: 'at' | 'in' | 'out') {
    if (e.button !== 0) return
    e.stopPropagation()
    const bench = useBench.getState()
    const from = points[i]![what]!
    const anchor = points[i]!.at
    // Pulled in the world, kept in the path's own space.
    const toWorld = poseMatrix(bench.shot.paths[index])
    const toOwn = toWorld.clone().invert()
    const start = new Vector3(...from).applyMatrix4(toWorld)
    const plane = pullPlane(camera, start, normal ? new Vector3(...normal).transformDirection(toWorld) : null)
    // Held with Shift a point goes straight up or down.
    const eye = camera.getWorldDirection(new Vector3()).setY(0).normalize()
    const upright = new Plane().setFromNormalAndCoplanarPoint(eye, start)
    const grabbed = onPlane(camera, element, e.nativeEvent.clientX, e.nativeEvent.clientY, plane) ?? start
    const grabbedUp = onPlane(camera, element, e.nativeEvent.clientX, e.nativeEvent.clientY, upright) ?? start
    const offset = start.clone().sub(grabbed)
    const resolvedHandles = shape!.spline
      ? { in: sub(new Vector3(...points[i]!.in!), anchor), out: sub(new Vector3(...points[i]!.out!), anchor) }
      : null
    useBench.setState({ point: i, grip: what === 'at' ? null : { point: i, side: what } })
    useView.getState().setPulling(true)
    let moved = false
    follow(
      (ev) => {
        let to: Vector3 | null
        if (shape!.over) {
          const object = fixtureObject(scene, shape!.over.fixture)
          const hit = object && onObject(camera, element, ev.clientX, ev.clientY, object)
          to = hit && object ? hit.applyMatrix4(object.matrixWorld.clone().invert()) : null
        } else if (ev.shiftKey) {
          const hit = onPlane(camera, element, ev.clientX, ev.clientY, upright)
          to = hit && start.clone().setY(start.y + hit.y - grabbedUp.y)
        } else {
          to = onPlane(camera, element, ev.clientX, ev.clientY, plane)?.add(offset) ?? null
        }
        if (!to || to.length() > 1e5) return
        moved = true
        const at = shape!.over ? to : to.applyMatrix4(toOwn)
        bench.preview((d: Document) => {
          const s = d.paths[index]!.shape
          if (what === 'at') putPoint(s, i, at.toArray())
          else pullHandle(s.spline!.points[i]!, what, sub(at, anchor), resolvedHandles!)
        })
      },
      (kept) => {
        useView.getState().setPulling(false)
        if (!moved) return
        if (kept) useBench.getState().commit(what === 'at' ? `move point ${i + 1}` : `pull handle of point ${i + 1}`)
        else useBench.getState().cancel()
      },
    )
  }

  const knob = (key: string, at: Vec3, radius: number, fill: string, i: number, what: 'at' | 'in' | 'out') => (
    <SteadySize key={key} position={at}>
      <mesh
        userData={{ point: true }}
        renderOrder={9}
        onPointerDown={(e) => pull(e, i, what)}
        onPointerOver={(e) => {
          e.stopPropagation()
          setHover(key)
          element.style.cursor = 'grab'
        }}
        onPointerOut={() => {
          setHover('')
          element.style.cursor = ''
        }}
      >
        <sphereGeometry args={[radius * (hover === key ? 1.35 : 1), 20, 14]} />
        <meshBasicMaterial color={fill} depthTest={false} transparent />
      </mesh>
    </SteadySize>
  )
  const closed = shape.spline?.closed ?? false
  return (
    <>
      {points.map((p, i) => {
        const ends = { in: !closed && i === 0, out: !closed && i === points.length - 1 }
        return (
          <group key={i}>
            {knob(`ring${i}`, p.at, 6.2, roles.kelp, i, 'at')}
            {knob(`p${i}`, p.at, 4.4, point === i && !grip ? roles.orange : roles.raised, i, 'at')}
            {point === i &&
              (['in', 'out'] as const).map((side) => {
                const h = p[side]
                if (!h || ends[side]) return null
                return (
                  <group key={side}>
                    <Line points={[p.at, h]} color={roles.slate} lineWidth={1} depthTest={false} renderOrder={8} />
                    {knob(`${side}${i}`, h, 4.2, grip === side ? roles.orange : roles.slate, i, side)}
                  </group>
                )
              })}
          </group>
        )
      })}
    </>
  )
}
