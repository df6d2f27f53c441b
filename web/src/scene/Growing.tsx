import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'

/** Holds the wheels of a path, or a rig on it: as large as they will be while the path is pulled larger. */
export function Growing({
  path,
  rig,
  children,
}: {
  path: string | undefined
  rig?: boolean
  children: React.ReactNode
}) {
  const answer = useBench((b) => b.answer)
  const growing = useView((v) => v.growing)
  const g =
    growing && growing.answer === answer && path && growing.paths.includes(path) && (growing.rigs || !rig)
      ? growing
      : null
  const [x, y, z] = g?.about ?? [0, 0, 0]
  const rest = 1 - (g?.times ?? 1)
  return (
    <group position={[x * rest, y * rest, z * rest]} scale={g?.times ?? 1}>
      {children}
    </group>
  )
}
