import { useFrame } from '@react-three/fiber'
import { useRef } from 'react'
import { Vector3, type Group } from 'three'

const at = new Vector3()

/** Keeps what is in it the same size on the screen: one unit inside is one pixel. */
export function SteadySize({ children, ...rest }: React.ComponentProps<'group'>) {
  const ref = useRef<Group>(null)
  useFrame(({ camera, size }) => {
    const g = ref.current
    if (!g) return
    const fov = 'fov' in camera ? camera.fov : 32
    const depth = Math.max(camera.position.distanceTo(g.getWorldPosition(at)), 1e-6)
    g.scale.setScalar((2 * depth * Math.tan((fov * Math.PI) / 360)) / size.height)
  })
  return (
    <group ref={ref} {...rest}>
      {children}
    </group>
  )
}
