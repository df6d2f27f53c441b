import { useThree, type ThreeEvent } from '@react-three/fiber'
import { Vector3 } from 'three'
import type { Tug } from '../core/page.generated'
import { presentOf, slotsOf, type Slot } from '../core/slots'
import { shifted } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { useView } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { Tag } from './PathMarks'
import { follow, onPlane, pullPlane } from './pointing'
import { Posed, poseMatrix } from './Posed'
import { SteadySize } from './SteadySize'
import { rightClick } from './rightClick'
import { Line } from './Line'

/** The tugs, each a knob on a line to the points it holds. */
export function Tugs({ roles }: { roles: Roles }) {
  const doc = useBench((b) => b.answer?.doc)
  return (
    <>
      {doc?.tugs?.map((t) => {
        const path = doc.paths.findIndex((p) => p.id === t.path)
        return (
          <Posed key={t.id} space="paths" index={path}>
            <Knob tug={t} path={path} roles={roles} />
          </Posed>
        )
      })}
    </>
  )
}

function Knob({ tug, path, roles }: { tug: Tug; path: number; roles: Roles }) {
  const camera = useThree((s) => s.camera)
  const element = useThree((s) => s.gl.domElement)
  const points = useBench((b) => b.answer?.readout.paths[path]?.points)
  const chosen = useBench((b) => b.selected?.kind === 'tug' && b.selected.id === tug.id)
  // Where it is now follows from its values, which change with the frame.
  const values = useBench((b) => b.shot.values)
  const moving = useBench((b) => b.answer?.readout.values)
  const doc = useBench((b) => b.doc)
  if (!points || !doc) return null
  const slots = slotsOf(doc, 'tug', tug.id)
  if (slots.length === 0) return null
  const present = (s: Slot) => presentOf(s, doc, moving, values)
  const held = tug.points.flatMap((n) => (points[n - 1] ? [new Vector3(...points[n - 1]!.at)] : []))
  const rest = held.reduce((a, p) => a.add(p), new Vector3()).multiplyScalar(1 / Math.max(held.length, 1))
  const at = rest.clone().add(new Vector3(present(slots[0]!), present(slots[1]!), present(slots[2]!)))
  const colour = chosen ? roles.orange : roles.brass

  function pull(e: ThreeEvent<PointerEvent>) {
    if (e.button !== 0 || useBench.getState().tool.kind !== 'none') return
    e.stopPropagation()
    const bench = useBench.getState()
    bench.select({ kind: 'tug', id: tug.id })
    useClock.getState().pause()
    const base = bench.base!
    const frame = useClock.getState().frame
    const now = slots.map((s) => presentOf(s, base, moving, bench.shot.values))
    const toWorld = poseMatrix(bench.shot.paths[path])
    const toOwn = toWorld.clone().invert()
    const start = at.clone().applyMatrix4(toWorld)
    const plane = pullPlane(camera, start, null)
    const grabbed = onPlane(camera, element, e.nativeEvent.clientX, e.nativeEvent.clientY, plane) ?? start
    let moved = false
    useView.getState().setPulling(true)
    follow(
      (ev) => {
        const hit = onPlane(camera, element, ev.clientX, ev.clientY, plane)
        if (!hit || hit.length() > 1e5) return
        moved = true
        const d = hit.applyMatrix4(toOwn).sub(grabbed.clone().applyMatrix4(toOwn)).toArray()
        bench.preview((doc) =>
          slots.forEach((s, i) => {
            if (Math.abs(d[i]!) > 1e-12) s.put(doc, shifted(s.get(base), d[i]!, frame, now[i]!))
          }),
        )
      },
      (kept) => {
        useView.getState().setPulling(false)
        if (!moved) return
        if (kept) useBench.getState().commit(`pull ${tug.name}`)
        else useBench.getState().cancel()
      },
    )
  }
  return (
    <>
      {held.map((p, i) => (
        <Line
          key={i}
          points={[p, at]}
          color={colour}
          lineWidth={1.4}
          dash={[0.04, 0.03]}
          depthTest={false}
          renderOrder={7}
        />
      ))}
      <SteadySize position={at}>
        <mesh
          renderOrder={10}
          onPointerDown={pull}
          onContextMenu={rightClick('tug', tug.id)}
          onPointerOver={() => (element.style.cursor = 'grab')}
          onPointerOut={() => (element.style.cursor = '')}
        >
          <sphereGeometry args={[chosen ? 8 : 6.5, 20, 14]} />
          <meshBasicMaterial color={colour} depthTest={false} transparent />
        </mesh>
      </SteadySize>
      {chosen && (
        <Tag at={at} colour={roles.orangeText} roles={roles} shift="translate(12px, -60%)">
          {tug.name}
        </Tag>
      )}
    </>
  )
}
