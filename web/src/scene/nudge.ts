import { Vector3, type Camera } from 'three'
import { handlesOf, putPoint, type Vec3 } from '../core/forms'
import { nextGrip, pullHandle } from '../core/handles'
import type { Document } from '../core/page.generated'
import { useBench } from '../stores/bench'
import { chosenPath } from '../stores/chosen'
import { gridStep } from './snap'
import { metresPerPixel } from './lens'
import { poseMatrix } from './Posed'

/** The view's camera, the place in its middle and its height in pixels, told by the view. */
export const eye: { camera: Camera | null; target: Vector3; height: number } = {
  camera: null,
  target: new Vector3(),
  height: 1,
}

/** Presses in a row, which are one step of the history: what they move, and where it has come to. */
let row: { of: string; at: Vec3; label: string; end: number } | null = null

function endRow() {
  if (!row) return
  window.clearTimeout(row.end)
  useBench.getState().commit(row.label)
  row = null
}

const sides = { out: 'ahead of', in: 'behind' } as const

/** Lets the arrows move the next of the chosen point, its handle ahead and its handle behind. */
export function takeNextGrip() {
  endRow()
  const bench = useBench.getState()
  const spline = chosenPath(bench)?.path.shape.spline
  const i = bench.point
  if (!spline || i === null || i >= spline.points.length) return
  const now = bench.grip?.point === i ? bench.grip.side : undefined
  const side = nextGrip(now, i, spline.points.length, !!spline.closed)
  useBench.setState({ grip: side ? { point: i, side } : null })
  bench.say(`The arrows move ${side ? `the handle ${sides[side]} point ${i + 1}` : `point ${i + 1}`}.`)
}

const offset = (a: Vec3, b: Vec3) => a.map((x, k) => Number((x - b[k]!).toPrecision(12))) as Vec3

/** What the arrows move: the chosen point or wheel, or a handle of it; where it is, and how it is put elsewhere. */
function gripped() {
  const bench = useBench.getState()
  const chosen = chosenPath(bench)
  const i = bench.point
  const at = chosen && i !== null ? handlesOf(chosen.path.shape)?.[i] : undefined
  if (!at || !chosen || i === null) return null
  const { index } = chosen
  const side = bench.grip?.point === i ? bench.grip.side : undefined
  // Where a handle is drawn is told by the server.
  const seen = side && chosen.path.shape.spline && bench.answer?.readout.paths[index]?.points?.[i]
  if (!seen) {
    return {
      index,
      at,
      put: (d: Document, to: Vec3) => putPoint(d.paths[index]!.shape, i, to),
      label: `move point ${i + 1}`,
    }
  }
  const now = { in: offset(seen.in, seen.at), out: offset(seen.out, seen.at) }
  return {
    index,
    at: at.map((x, k) => x + now[side][k]!) as Vec3,
    put: (d: Document, to: Vec3) => pullHandle(d.paths[index]!.shape.spline!.points[i]!, side, offset(to, at), now),
    label: `move the handle ${sides[side]} point ${i + 1}`,
  }
}

/** Moves what the arrows move along the axes of the world that lie nearest to the picture's. */
export function nudge(key: string, far: boolean) {
  const bench = useBench.getState()
  const grip = gripped()
  const { camera } = eye
  if (!grip || !camera) return
  const of = `${grip.index} ${grip.label}`
  if (row && row.of !== of) endRow()
  const pose = poseMatrix(bench.shot.paths[grip.index])
  // The answer to the press before may still be on its way.
  const world = new Vector3(...(row?.at ?? grip.at)).applyMatrix4(pose)
  const right = new Vector3(1, 0, 0).transformDirection(camera.matrixWorld)
  const up = new Vector3(0, 1, 0).transformDirection(camera.matrixWorld)
  const axis = (v: Vector3, but = -1) => {
    const size = v.toArray().map((x, k) => (k === but ? -1 : Math.abs(x)))
    return size.indexOf(Math.max(...size))
  }
  const across = axis(right)
  const sideways = key === 'ArrowLeft' || key === 'ArrowRight'
  const k = sideways ? across : axis(up, across)
  const sign =
    Math.sign((sideways ? right : up).getComponent(k)) * (key === 'ArrowLeft' || key === 'ArrowDown' ? -1 : 1)
  const step = gridStep(metresPerPixel(camera, world, eye.height), 2) * (far ? 10 : 1)
  world.setComponent(k, Number((world.getComponent(k) + sign * step).toPrecision(12)))
  const to = world
    .applyMatrix4(pose.clone().invert())
    .toArray()
    .map((x) => Number(x.toPrecision(12))) as Vec3
  bench.preview((d) => grip.put(d, to))
  if (row) window.clearTimeout(row.end)
  row = { of, at: to, label: grip.label, end: window.setTimeout(endRow, 500) }
}
