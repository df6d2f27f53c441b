import { Plane, Raycaster, Vector2, Vector3, type Camera, type Object3D } from 'three'
import type { PathLine } from '../core/wire'

const ray = new Raycaster()
const ndc = new Vector2()
const scratch = new Vector3()

/** The world ray under a place on the screen. */
export function rayAt(camera: Camera, element: Element, clientX: number, clientY: number) {
  const box = element.getBoundingClientRect()
  ndc.set(((clientX - box.left) / box.width) * 2 - 1, -((clientY - box.top) / box.height) * 2 + 1)
  ray.setFromCamera(ndc, camera)
  return ray.ray
}

/** Where the ray under a place on the screen first meets an object, or null. */
export function onObject(camera: Camera, element: Element, clientX: number, clientY: number, object: Object3D) {
  rayAt(camera, element, clientX, clientY)
  return ray.intersectObject(object, true)[0]?.point.clone() ?? null
}

/** Where the ray under a place on the screen meets a plane, or null. */
export function onPlane(
  camera: Camera,
  element: Element,
  clientX: number,
  clientY: number,
  plane: Plane,
): Vector3 | null {
  return rayAt(camera, element, clientX, clientY).intersectPlane(plane, new Vector3())
}

/**
 * The distance along a drawn path that lies nearest to a place on the screen. Of
 * stretches that lie over one another the one nearer to the distance `near` is
 * preferred, so that a pulled piece does not jump to the far side of a loop.
 */
export function distanceAt(
  camera: Camera,
  element: Element,
  line: PathLine,
  clientX: number,
  clientY: number,
  near: number,
  length: number,
  closed: boolean,
): number {
  const box = element.getBoundingClientRect()
  const project = (i: number) => {
    scratch.fromArray(line.points, 3 * i).project(camera)
    return [((scratch.x + 1) / 2) * box.width + box.left, ((1 - scratch.y) / 2) * box.height + box.top] as const
  }
  let best = near
  let bestCost = Infinity
  let a = project(0)
  for (let i = 1; i < line.distances.length; i++) {
    const b = project(i)
    const dx = b[0] - a[0]
    const dy = b[1] - a[1]
    const l2 = dx * dx + dy * dy
    const t = l2 > 0 ? Math.min(Math.max(((clientX - a[0]) * dx + (clientY - a[1]) * dy) / l2, 0), 1) : 0
    const d = Math.hypot(clientX - a[0] - t * dx, clientY - a[1] - t * dy)
    const s = line.distances[i - 1]! + t * (line.distances[i]! - line.distances[i - 1]!)
    let away = Math.abs(s - near)
    if (closed) away = Math.min(away, length - away)
    // A tenth of the length away costs as much as 40 pixels.
    const cost = d + (400 * away) / length
    if (cost < bestCost) {
      bestCost = cost
      best = s
    }
    a = b
  }
  return best
}

/**
 * The plane in which a point of the path is pulled: that of a flat path if it is
 * seen from the front, else the world plane that faces the eye most.
 */
export function pullPlane(camera: Camera, at: Vector3, normal: Vector3 | null): Plane {
  const eye = camera.getWorldDirection(new Vector3())
  let n = normal && Math.abs(normal.dot(eye)) > 0.25 ? normal.clone() : null
  if (!n) {
    const a = [Math.abs(eye.x), Math.abs(eye.y), Math.abs(eye.z)]
    const most = a.indexOf(Math.max(...a))
    n = new Vector3(most === 0 ? 1 : 0, most === 1 ? 1 : 0, most === 2 ? 1 : 0)
  }
  return new Plane().setFromNormalAndCoplanarPoint(n, at)
}

/**
 * Tells of moves over an element and of clicks on it: presses that were let go where
 * they began, so that an orbit is none. Returns how to stop.
 */
export function onClicks(element: HTMLElement, move: (e: PointerEvent) => void, click: (e: PointerEvent) => void) {
  let pressed: { x: number; y: number } | null = null
  const down = (e: PointerEvent) => {
    if (e.button === 0) pressed = { x: e.clientX, y: e.clientY }
  }
  const up = (e: PointerEvent) => {
    const still = pressed && Math.hypot(e.clientX - pressed.x, e.clientY - pressed.y) <= 4
    pressed = null
    if (still) click(e)
  }
  element.style.cursor = 'crosshair'
  element.addEventListener('pointerdown', down)
  element.addEventListener('pointermove', move)
  // Wherever it is let go: words over the view may have come under it.
  window.addEventListener('pointerup', up)
  return () => {
    element.style.cursor = ''
    element.removeEventListener('pointerdown', down)
    element.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
  }
}

/** Follows the pointer until it is let go, wherever it is; Escape gives up. */
export function follow(onMove: (e: PointerEvent) => void, onEnd: (kept: boolean) => void) {
  // The press was taken from the page, so a field that was typed into is still at it.
  if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur()
  const stop = (kept: boolean) => {
    window.removeEventListener('pointermove', onMove)
    window.removeEventListener('pointerup', up)
    window.removeEventListener('pointercancel', cancelled)
    window.removeEventListener('keydown', key, true)
    onEnd(kept)
  }
  const up = () => stop(true)
  const cancelled = () => stop(false)
  const key = (e: KeyboardEvent) => {
    if (e.key === 'Escape') {
      e.stopPropagation()
      stop(false)
    }
  }
  window.addEventListener('pointermove', onMove)
  window.addEventListener('pointerup', up)
  window.addEventListener('pointercancel', cancelled)
  window.addEventListener('keydown', key, true)
}
