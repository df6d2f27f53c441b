import { useThree } from '@react-three/fiber'
import { useEffect, useMemo, useState } from 'react'
import { Matrix4, Plane, Vector3 } from 'three'
import type { Document, PathShape } from '../core/page.generated'
import { addPath, drawnPath } from '../core/value'
import { useBench, type Tool } from '../stores/bench'
import type { ViewName } from '../stores/prefs'
import type { Roles } from '../look/theme'
import { fixtureMatrix, fixtureObject } from './Fixtures'
import { onClicks, onObject, onPlane } from './pointing'
import { snapped, type Axis } from './snap'
import { SteadySize } from './SteadySize'
import { Line } from './Line'

type Vec3 = [number, number, number]
type Drawing = Extract<Tool, { kind: 'draw' }>

/**
 * The plane that is drawn in: that of a square-on view, else the ground. Its first axis runs right or ahead, its
 * second up or left.
 */
export function drawPlane(view: ViewName): { plane: Plane; name: string; axes: [Axis, Axis] } {
  if (view === 'side') return { plane: new Plane(new Vector3(1, 0, 0), 0), name: 'in the side plane', axes: ['z', 'y'] }
  if (view === 'ahead')
    return { plane: new Plane(new Vector3(0, 0, 1), 0), name: 'in the ahead plane', axes: ['x', 'y'] }
  return { plane: new Plane(new Vector3(0, 1, 0), 0), name: 'on the ground', axes: ['z', 'x'] }
}

/** The shape of what is drawn. */
function shapeOf({ over }: Drawing, points: Vec3[], closed: boolean): PathShape {
  const ends = closed ? { closed } : {}
  return over
    ? { over: { fixture: over, clearance: 0.02, ...ends, points } }
    : { spline: { ...ends, points: points.map((at) => ({ at, handles: 'smooth' })) } }
}

/** Ends drawing and keeps the path; fewer than two points are thrown away. */
export function finishDrawing(closed: boolean) {
  const { tool, edit, cancel } = useBench.getState()
  if (tool.kind !== 'draw') return
  giveUpDrawing()
  if (tool.points.length < (closed ? 3 : 2)) return
  cancel()
  let id = ''
  const on = useBench.getState().doc?.fixtures?.find((f) => f.id === tool.over)
  edit(on ? `draw a path on ${on.name}` : closed ? 'draw a closed path' : 'draw a path', (d) => {
    id = addPath(d, on ? `On ${on.name}` : closed ? 'Loop' : 'Curve', shapeOf(tool, tool.points, closed))
  })
  useBench.getState().select({ kind: 'path', id })
}

/** Ends drawing and keeps nothing. */
export function giveUpDrawing() {
  useBench.getState().cancel()
  useBench.setState({ tool: { kind: 'none' } })
}

const round = (x: number) => Math.round(x * 1e4) / 1e4 || 0

/** Sets a point of what is drawn. */
export function drawPoint(at: Vec3) {
  const { tool } = useBench.getState()
  if (tool.kind === 'draw') useBench.setState({ tool: { ...tool, points: [...tool.points, at.map(round) as Vec3] } })
}

/** Lets the server make the curve through the points, on to the pointer, and measure it. */
function showDrawn(tool: Drawing) {
  const { preview } = useBench.getState()
  const { points, at } = tool
  const last = points.at(-1)
  const far = at && (!last || Math.hypot(...at.map((x, i) => x - last[i]!)) > 1e-3)
  const all = far ? [...points, at] : points
  preview((d: Document) => {
    const i = d.paths.findIndex((p) => p.id === drawnPath)
    if (all.length < 2) {
      if (i >= 0) d.paths.splice(i, 1)
    } else if (i < 0) d.paths.push({ id: drawnPath, name: 'Being drawn', shape: shapeOf(tool, all, false) })
    else d.paths[i]!.shape = shapeOf(tool, all, false)
  })
}

/** Points are set by clicking; the first one again closes the path. */
export function DrawTool({ roles }: { roles: Roles }) {
  const tool = useBench((b) => b.tool)
  const camera = useThree((s) => s.camera)
  const scene = useThree((s) => s.scene)
  const element = useThree((s) => s.gl.domElement)
  const invalidate = useThree((s) => s.invalidate)
  const over = tool.kind === 'draw' ? tool.over : undefined
  // Compared as text: each answer makes a new object of the same place, and must not interrupt a click.
  const place = useBench((b) => b.answer?.readout.fixtures.find((f) => f.id === over)?.place.join(' '))
  const matrix = useMemo(() => (place ? fixtureMatrix(place.split(' ').map(Number)) : new Matrix4()), [place])
  const [cursor, setCursor] = useState<Vec3 | null>(null)
  const drawing = tool.kind === 'draw'
  const view = tool.kind === 'draw' ? tool.view : 'corner'
  const { plane, axes } = useMemo(() => drawPlane(view), [view])

  useEffect(() => {
    if (!drawing) return
    const place = (e: PointerEvent): { at: Vector3; to: string } | null => {
      if (over) {
        const object = fixtureObject(scene, over)
        const at = object && onObject(camera, element, e.clientX, e.clientY, object)
        return at ? { at, to: '' } : null
      }
      const hit = onPlane(camera, element, e.clientX, e.clientY, plane)
      if (!hit || hit.length() > 1e4) return null
      return e.altKey ? { at: hit, to: '' } : snapped(hit, axes, camera, element, drawnPath)
    }
    const pixels = (p: Vec3, e: PointerEvent) => {
      const v = new Vector3(...p).applyMatrix4(matrix).project(camera)
      const box = element.getBoundingClientRect()
      return Math.hypot(
        ((v.x + 1) / 2) * box.width + box.left - e.clientX,
        ((1 - v.y) / 2) * box.height + box.top - e.clientY,
      )
    }
    const own = (at: Vector3) => at.clone().applyMatrix4(matrix.clone().invert()).toArray().map(round) as Vec3
    const move = (e: PointerEvent) => {
      const hit = place(e)
      setCursor(hit?.at.toArray() ?? null)
      const { tool } = useBench.getState()
      if (tool.kind !== 'draw') return
      useBench.setState({ tool: { ...tool, at: hit ? own(hit.at) : undefined, to: hit?.to } })
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
      const last = tool.points.at(-1)
      if (!hit || (last && pixels(last, e) < 3)) return
      drawPoint(own(hit.at))
      invalidate()
    }
    return onClicks(element, move, click)
  }, [drawing, camera, element, plane, axes, invalidate, over, scene, matrix])

  useEffect(() => {
    if (tool.kind === 'draw') showDrawn(tool)
  }, [tool])

  if (tool.kind !== 'draw') return null
  const pts = tool.points.map((p) => new Vector3(...p).applyMatrix4(matrix).toArray())
  const last = pts.at(-1)
  return (
    <>
      {cursor && last && <Line points={[last, cursor]} color={roles.slate} lineWidth={1} depthTest={false} />}
      {cursor && tool.to && (
        <SteadySize position={cursor}>
          <mesh renderOrder={6}>
            <torusGeometry args={[7, 1.1, 8, 28]} />
            <meshBasicMaterial color={roles.orange} depthTest={false} transparent />
          </mesh>
        </SteadySize>
      )}
      {pts.map((p, i) => (
        <SteadySize key={i} position={p}>
          {/* What lies behind the thing that is drawn on shows faintly through it. */}
          {[true, false].map((front) => (
            <mesh key={String(front)} renderOrder={front ? 7 : 6}>
              <sphereGeometry args={[i === 0 ? 6 : 4.2, 16, 12]} />
              <meshBasicMaterial
                color={i === 0 ? roles.orange : roles.kelp}
                depthTest={front && !!over}
                transparent
                opacity={front || !over ? 1 : 0.3}
              />
            </mesh>
          ))}
        </SteadySize>
      ))}
    </>
  )
}
