import { OrbitControls } from '@react-three/drei'
import { useFrame, useThree } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useRef } from 'react'
import type { Box3, OrthographicCamera, PerspectiveCamera } from 'three'
import { Matrix4, Vector3 } from 'three'
import type { OrbitControls as Controls } from 'three-stdlib'
import { useBench } from '../stores/bench'
import { useView, type ViewName } from '../stores/prefs'
import { chosenBox } from './chosenBox'
import { fov, reachOf, stand } from './lens'

/** The side from which each ready view looks; forward (+z) runs to the left in Corner and Side. */
const directions: Record<Exclude<ViewName, 'free'>, Vector3> = {
  corner: new Vector3(1, 0.52, 0.62).normalize(),
  side: new Vector3(1, 0, 0),
  ahead: new Vector3(0, 0, 1),
  // A hair off the pole, so that left and right stay what they are in Side.
  above: new Vector3(1e-4, 1, 0).normalize(),
}

const moveSeconds = 0.28
const reduced = () => window.matchMedia('(prefers-reduced-motion: reduce)').matches

interface Move {
  fromDirection: Vector3
  fromReach: number
  fromTarget: Vector3
  toDirection: Vector3
  toReach: number
  toTarget: Vector3
  passed: number
}

/** Orbit, pan and zoom by hand, and the four ready views that fit the scene or, alongside, what is chosen. */
export function CameraRig({ bounds, ready, size: extent }: { bounds: Box3; ready: boolean; size: number }) {
  const controls = useRef<Controls>(null)
  const camera = useThree((s) => s.camera) as OrthographicCamera | PerspectiveCamera
  const size = useThree((s) => s.size)
  const invalidate = useThree((s) => s.invalidate)
  const view = useView((v) => v.view)
  const presses = useView((v) => v.presses)
  const pulling = useView((v) => v.pulling)
  const through = useView((v) => v.through)
  const alongside = useView((v) => v.alongside)
  const chosen = useBench((b) => b.selected?.id)
  const gl = useThree((s) => s.gl)
  const move = useRef<Move | null>(null)
  /** The view has come to rest; tests that point at things wait for it. */
  const still = () => {
    move.current = null
    delete gl.domElement.dataset.moving
  }
  const placed = useRef(false)
  /** Where the view looks from and at, kept while the camera is another. */
  const seen = useRef({ target: new Vector3(), direction: directions.corner.clone(), reach: 8 })
  const depth = Math.max(extent * 4, 10)
  const setUp = (target: Vector3, direction: Vector3, reach: number) => {
    // Kept at once: another camera may take over before the next frame.
    seen.current = { target: target.clone(), direction: direction.clone(), reach }
    controls.current?.target.copy(target)
    stand(camera, target, direction, reach, size.height, Math.max(depth, reach))
    controls.current?.update()
    invalidate()
  }
  useLayoutEffect(() => {
    if (through) return // a camera of the scene stands where the scene says
    const { target, direction, reach } = seen.current
    setUp(target, direction, reach)
    // The camera is another: it looks as the one before did.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [camera, through])
  const before = useRef(new Matrix4())
  const latest = useRef(bounds)
  const wasAlongside = useRef(false)
  useEffect(() => {
    const was = latest.current
    latest.current = bounds
    // Ten times as large or small, or somewhere else altogether: a ready view fits it once more.
    const [a, b] = [was.getSize(new Vector3()).length(), bounds.getSize(new Vector3()).length()]
    const away = was.getCenter(new Vector3()).distanceTo(bounds.getCenter(new Vector3()))
    const far = placed.current && (b > 10 * a || a > 10 * b || away > 2 * Math.max(a, b))
    if (far && !useView.getState().pulling && useBench.getState().tool.kind === 'none') useView.getState().looked()
    // Something was added that may lie outside the picture.
    if (useView.getState().wantsLook) useView.getState().looked()
  }, [bounds])

  const nears = useView((v) => v.nears)
  const wasNear = useRef(nears)
  useEffect(() => {
    const c = controls.current
    const near = nears !== wasNear.current
    wasNear.current = nears
    const box = ((alongside || near) && chosenBox()) || latest.current
    // Turned by hand, the view keeps its side and goes nearer or farther all the same.
    if (through) return
    const stays = view === 'free' && !(alongside || near || wasAlongside.current)
    wasAlongside.current = alongside
    if (!c || stays || !ready) return
    const target = box.getCenter(new Vector3())
    const now = camera.position.clone().sub(c.target).normalize()
    const dir = view === 'free' || near ? now : directions[view]
    const { far, up } = fit(box, dir, size.width / size.height, size.height, useView.getState().flat)
    target.add(up)
    if (!placed.current || reduced()) {
      placed.current = true
      setUp(target, dir, far)
      return
    }
    gl.domElement.dataset.moving = '1'
    move.current = {
      fromDirection: now,
      fromReach: reachOf(camera, c.target, size.height),
      fromTarget: c.target.clone(),
      toDirection: dir,
      toReach: far,
      toTarget: target,
      passed: 0,
    }
    invalidate()
    // Fitting again is asked for by a press, not by every edit or resize.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, presses, nears, ready, alongside, alongside && chosen])

  // Alongside, the view goes where what is chosen goes.
  useEffect(() => {
    if (!alongside) return
    let last = chosenBox()?.getCenter(new Vector3())
    return useBench.subscribe((now, before) => {
      if (now.shot === before.shot) return
      const c = controls.current
      const centre = chosenBox()?.getCenter(new Vector3())
      // What is being pulled would flee from the hand.
      if (c && centre && last && !useView.getState().pulling) {
        const by = centre.clone().sub(last)
        camera.position.add(by)
        c.target.add(by)
        if (move.current) for (const v of ['fromTarget', 'toTarget'] as const) move.current[v].add(by)
        c.update()
        invalidate()
      }
      last = centre
    })
  }, [alongside, chosen, camera, invalidate])

  useFrame((_, delta) => {
    const m = move.current
    const c = controls.current
    if (through) return
    if (c) {
      seen.current.target.copy(c.target)
      seen.current.direction.copy(camera.position).sub(c.target).normalize()
      seen.current.reach = reachOf(camera, c.target, size.height)
    }
    if (!m || !c) return
    m.passed = Math.min(m.passed + Math.min(delta, 0.05) / moveSeconds, 1)
    const k = m.passed * m.passed * (3 - 2 * m.passed)
    // Turn about the target rather than cut through the scene.
    const target = m.fromTarget.clone().lerp(m.toTarget, k)
    const direction = m.fromDirection.clone().lerp(m.toDirection, k).normalize()
    setUp(target, direction, m.fromReach + (m.toReach - m.fromReach) * k)
    if (m.passed >= 1) still()
  })

  return (
    <OrbitControls
      ref={controls}
      makeDefault
      enabled={!pulling && !through}
      enableDamping={false}
      minDistance={0.02}
      maxDistance={2000}
      onStart={() => {
        still()
        before.current.copy(camera.matrix)
        gl.domElement.dataset.moving = '1'
      }}
      onEnd={() => {
        still()
        // A click moves nothing and leaves the ready view what it is.
        if (!before.current.equals(camera.matrix)) useView.getState().freed()
      }}
    />
  )
}

/** Pixels at the view's upper edge that its buttons take. */
const head = 52

/** From how far off a box is seen whole, and how far above its middle to look, so that it stands below the buttons. */
function fit(box: Box3, dir: Vector3, aspect: number, height: number, flat: boolean): { far: number; up: Vector3 } {
  const low = Math.min(head / height, 0.3)
  const right = new Vector3(0, 1, 0).cross(dir).normalize()
  if (right.lengthSq() === 0) right.set(0, 0, -1)
  const up = dir.clone().cross(right)
  const tan = Math.tan((fov * Math.PI) / 360)
  const centre = box.getCenter(new Vector3())
  let far = 0
  for (let i = 0; i < 8; i++) {
    const p = new Vector3(
      i & 1 ? box.max.x : box.min.x,
      i & 2 ? box.max.y : box.min.y,
      i & 4 ? box.max.z : box.min.z,
    ).sub(centre)
    const need =
      Math.max(Math.abs(p.dot(up)) / (tan * (1 - low)), Math.abs(p.dot(right)) / (tan * aspect)) +
      (flat ? 0 : p.dot(dir))
    far = Math.max(far, need)
  }
  far = Math.max(far * 1.02, 0.2)
  return { far, up: up.multiplyScalar(low * tan * far) }
}
