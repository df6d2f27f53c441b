import { PerspectiveCamera } from '@react-three/drei'
import { useThree } from '@react-three/fiber'
import { useLayoutEffect, useMemo, useRef } from 'react'
import { Matrix4, Vector3, type PerspectiveCamera as Perspective } from 'three'
import { pictureSize } from '../core/camera'
import type { Shot } from '../core/wire'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'
import { Posed, poseMatrix } from './Posed'
import { rightClick } from './rightClick'
import { SteadySize } from './SteadySize'
import { Line } from './Line'

/** The cameras of the scene, each as the pyramid of what it sees; the one that is looked through does not show. */
export function Cameras({ roles }: { roles: Roles }) {
  const cameras = useBench((b) => b.answer?.doc.cameras)
  const selected = useBench((b) => (b.selected?.kind === 'camera' ? b.selected.id : ''))
  const through = useView((v) => v.through)
  return (
    <>
      {cameras?.map(
        (c, i) =>
          c.id !== through && (
            <Posed key={c.id} space="cameras" index={i}>
              <SteadySize>
                <Pyramid id={c.id} index={i} aspect={aspectOf(i)} chosen={selected === c.id} roles={roles} />
              </SteadySize>
            </Posed>
          ),
      )}
    </>
  )
}

const aspectOf = (index: number) => {
  const [w, h] = pictureSize(useBench.getState().answer?.doc.cameras?.[index])
  return w / h
}

/** How long the pyramid of a camera is, pixels. */
const depth = 34

function Pyramid({
  id,
  index,
  aspect,
  chosen,
  roles,
}: {
  id: string
  index: number
  aspect: number
  chosen: boolean
  roles: Roles
}) {
  const angle = useBench((b) => b.shot.cameras[index]?.[7] ?? 0.6)
  const points = useMemo(() => {
    const z = depth
    const y = z * Math.tan(angle / 2)
    const x = y * aspect
    const o = new Vector3()
    const corners = [
      [x, y],
      [-x, y],
      [-x, -y],
      [x, -y],
    ].map(([a, b]) => new Vector3(a, b, z))
    const [a, b, c, d] = corners as [Vector3, Vector3, Vector3, Vector3]
    const up = new Vector3(0, y * 1.5, z)
    return [o, a, b, o, c, b, up, a, d, o, c, d]
  }, [angle, aspect])
  return (
    <group
      onClick={(e) => {
        if (e.delta > 3 || useBench.getState().tool.kind !== 'none') return
        e.stopPropagation()
        useBench.getState().select({ kind: 'camera', id })
      }}
      onContextMenu={rightClick('camera', id)}
    >
      <Line
        points={points}
        color={chosen ? roles.kelp : roles.slate}
        lineWidth={chosen ? 2 : 1.4}
        raycast={() => null}
      />
      {/* Something to press: the lines are thin. */}
      <mesh position={[0, 0, depth / 2]}>
        <sphereGeometry args={[depth * 0.35, 8, 6]} />
        <meshBasicMaterial visible={false} />
      </mesh>
    </group>
  )
}

/** Puts a camera where one of the scene's cameras is in a shot. */
export function standAs(camera: Perspective, shot: Shot, index: number) {
  const c = shot.cameras[index]
  if (!c) return
  poseMatrix(c).multiply(halfTurn).decompose(camera.position, camera.quaternion, camera.scale)
  camera.updateMatrixWorld()
}

/** three's cameras look along -z. */
const halfTurn = new Matrix4().makeRotationY(Math.PI)

/** Height of a camera's picture in a view, pixels: clear of the ready views above, with its frame lines in sight. */
export const frameIn = (width: number, height: number, aspect: number) =>
  Math.min(Math.max(height - 2 * 52, height / 2), (width / aspect) * 0.96)

/** Looks through a camera of the scene: its picture lies in the middle of the view. */
export function Through({ index }: { index: number }) {
  const ref = useRef<Perspective>(null)
  const size = useThree((s) => s.size)
  const invalidate = useThree((s) => s.invalidate)
  const aspect = useBench((b) => {
    const [w, h] = pictureSize(b.answer?.doc.cameras?.[index])
    return w / h
  })
  useLayoutEffect(() => {
    const put = (shot: Shot) => {
      const camera = ref.current
      const c = shot.cameras[index]
      if (!camera || !c) return
      standAs(camera, shot, index)
      const over = size.height / frameIn(size.width, size.height, aspect)
      camera.fov = (2 * Math.atan(Math.tan(c[7]! / 2) * over) * 180) / Math.PI
      camera.updateProjectionMatrix()
      invalidate()
    }
    put(useBench.getState().shot)
    return useBench.subscribe((now, before) => now.shot !== before.shot && put(now.shot))
  }, [index, aspect, size, invalidate])
  return <PerspectiveCamera ref={ref} makeDefault near={0.01} far={5000} />
}
