import { useFrame } from '@react-three/fiber'
import { useRef } from 'react'
import { Vector3, type Group } from 'three'
import { metresPerPixel } from './lens'

const at = new Vector3()

/** Keeps what is in it the same size on the screen: one unit inside is one pixel. */
export function SteadySize({ children, ...rest }: React.ComponentProps<'group'>) {
  const ref = useRef<Group>(null)
  useFrame(({ camera, size }) => {
    const g = ref.current
    if (!g) return
    g.scale.setScalar(metresPerPixel(camera, g.getWorldPosition(at), size.height))
  })
  return (
    <group ref={ref} {...rest}>
      {children}
    </group>
  )
}
