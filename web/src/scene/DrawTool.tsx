import { Line } from '@react-three/drei'
import { useThree } from '@react-three/fiber'
import { useEffect, useMemo, useState } from 'react'
import { Matrix4, Plane, Vector3 } from 'three'
import { addPath } from '../core/value'
import { useBench } from '../stores/bench'
import type { ViewName } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { fixtureMatrix, fixtureObject } from './Fixtures'
import { onClicks, onObject, onPlane } from './pointing'
import { SteadySize } from './SteadySize'

type Vec3 = [number, number, number]

/** The plane that is drawn in: a square-on view's own, else the ground. */
export function drawPlane(view: ViewName): { plane: Plane; name: string } {
  if (view === 'side') return { plane: new Plane(new Vector3(1, 0, 0), 0), name: 'in the side plane' }
  if (view === 'ahead') return { plane: new Plane(new Vector3(0, 0, 1), 0), name: 'in the ahead plane' }
  return { plane: new Plane(new Vector3(0, 1, 0), 0), name: 'on the ground' }
}

/** Ends drawing and keeps the path; fewer than two points are thrown away. */
export function finishDrawing(closed: boolean) {
  const { tool, edit } = useBench.getState()
  if (tool.kind !== 'draw') return
  useBench.setState({ tool: { kind: 'none' } })
  if (tool.points.length < (closed ? 3 : 2)) return
  let id = ''
  const on = useBench.getState().doc?.fixtures?.find((f) => f.id === tool.over)
  edit(on ? `draw a path on ${on.name}` : closed ? 'draw a closed path' : 'draw a path', (d) => {
    if (on) {
      id = addPath(d, `On ${on.name}`, {
        over: { fixture: on.id, clearance: 0.02, ...(closed ? { closed } : {}), points: tool.points },
      })
      return
    }
    id = addPath(d, closed ? 'Loop' : 'Curve', {
      spline: { ...(closed ? { closed } : {}), points: tool.points.map((at) => ({ at, handles: 'smooth' })) },
    })
  })
  useBench.getState().select({ kind: 'path', id })
}

/** Points are set by clicking; the first one again closes the path. */
export function DrawTool({ roles }: { roles: Roles }) {
  const tool = useBench((b) => b.tool)
  const camera = useThree((s) => s.camera)
  const scene = useThree((s) => s.scene)
  const element = useThree((s) => s.gl.domElement)
  const invalidate = useThree((s) => s.invalidate)
  const over = tool.kind === 'draw' ? tool.over : undefined
  // Points on a fixture are kept in its own axes.
  const place = useBench((b) => b.answer?.readout.fixtures.find((f) => f.id === over)?.place)
  const matrix = useMemo(() => (place ? fixtureMatrix(place) : new Matrix4()), [place])
  const [cursor, setCursor] = useState<Vec3 | null>(null)
  const drawing = tool.kind === 'draw'
  const view = tool.kind === 'draw' ? tool.view : 'corner'
  const plane = useMemo(() => drawPlane(view).plane, [view])

  useEffect(() => {
    if (!drawing) return
    const place = (e: PointerEvent) => {
      if (!over) return onPlane(camera, element, e.clientX, e.clientY, plane)
      const object = fixtureObject(scene, over)
      return object ? onObject(camera, element, e.clientX, e.clientY, object) : null
    }
    const pixels = (p: Vec3, e: PointerEvent) => {
      const v = new Vector3(...p).applyMatrix4(matrix).project(camera)
      const box = element.getBoundingClientRect()
      return Math.hypot(
        ((v.x + 1) / 2) * box.width + box.left - e.clientX,
        ((1 - v.y) / 2) * box.height + box.top - e.clientY,
      )
    }
    const move = (e: PointerEvent) => {
      const hit = place(e)
      setCursor(hit && hit.length() < 1e4 ? hit.toArray() : null)
      invalidate()
    }
    const click = (e: PointerEvent) => {
      const { tool } = useBench.getState()
      if (tool.kind !== 'draw') return
      if (tool.points.length >= 3 && pixels(tool.points[0]!, e) < 12) {
        finishDrawing(true)
        return
      }
      const hit = place(e)
      if (!hit || hit.length() > 1e4) return
      const last = tool.points.at(-1)
      if (last && pixels(last, e) < 3) return
      const round = (x: number) => Math.round(x * 1e4) / 1e4 || 0
      hit.applyMatrix4(matrix.clone().invert())
      useBench.setState({ tool: { ...tool, points: [...tool.points, hit.toArray().map(round) as Vec3] } })
      invalidate()
    }
    return onClicks(element, move, click)
  }, [drawing, camera, element, plane, invalidate, over, scene, matrix])

  if (tool.kind !== 'draw') return null
  const pts = tool.points.map((p) => new Vector3(...p).applyMatrix4(matrix).toArray())
  const line: Vec3[] = cursor ? [...pts, cursor] : pts
  return (
    <>
      {line.length > 1 && <Line points={line} color={roles.kelp} lineWidth={2} depthTest={false} renderOrder={5} />}
      {pts.map((p, i) => (
        <SteadySize key={i} position={p}>
          <mesh renderOrder={6}>
            <sphereGeometry args={[i === 0 ? 6 : 4.2, 16, 12]} />
            <meshBasicMaterial color={i === 0 ? roles.orange : roles.kelp} depthTest={false} transparent />
          </mesh>
        </SteadySize>
      ))}
    </>
  )
}
