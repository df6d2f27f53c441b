import { useThree } from '@react-three/fiber'
import { useLayoutEffect, useRef } from 'react'
import { Matrix4, Quaternion, Vector3, type Group } from 'three'
import type { PathLine, Pose, Shot } from '../core/wire'
import { useBench } from '../stores/bench'

const one = new Vector3(1, 1, 1)

/** A pose as a matrix. */
export function poseMatrix(p: Pose | undefined): Matrix4 {
  const m = new Matrix4()
  return p ? m.compose(new Vector3(p[0], p[1], p[2]), new Quaternion(p[3], p[4], p[5], p[6]), one) : m
}

export type Space = 'paths' | 'fixtures' | 'carriers' | 'cameras'

/** Holds what is in it where a path's space, a fixture or a carrier is at the play head. */
export function Posed({
  space,
  index,
  children,
  name,
}: {
  space: Space
  index: number
  children: React.ReactNode
  name?: string
}) {
  const ref = useRef<Group>(null)
  const invalidate = useThree((s) => s.invalidate)
  useLayoutEffect(() => {
    const put = (shot: Shot) => {
      const p = shot[space][index]
      if (!ref.current || !p) return
      ref.current.position.set(p[0]!, p[1]!, p[2])
      ref.current.quaternion.set(p[3]!, p[4]!, p[5]!, p[6]!)
      ref.current.updateMatrixWorld()
      invalidate()
    }
    put(useBench.getState().shot)
    return useBench.subscribe((now, before) => now.shot !== before.shot && put(now.shot))
  }, [space, index, invalidate])
  return (
    <group ref={ref} name={name}>
      {children}
    </group>
  )
}

const same = (p: Pose | undefined) =>
  !p || (p[0] === 0 && p[1] === 0 && p[2] === 0 && p[3] === 0 && p[4] === 0 && p[5] === 0)

/** The drawing of a path in its own space, as it is at the play head. */
export function lineAt(index: number): PathLine | undefined {
  const { answer, shot } = useBench.getState()
  return shot.lines[index] ?? answer?.paths[index]
}

/** The drawing of a path in the world at the play head. */
export function worldLine(index: number): PathLine | undefined {
  const line = lineAt(index)
  const pose = useBench.getState().shot.paths[index]
  if (!line || same(pose)) return line
  const m = poseMatrix(pose)
  const v = new Vector3()
  const points = new Float32Array(line.points.length)
  for (let i = 0; i < points.length; i += 3) v.fromArray(line.points, i).applyMatrix4(m).toArray(points, i)
  return { points, distances: line.distances }
}
