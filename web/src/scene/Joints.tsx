import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { BufferAttribute, BufferGeometry, Color } from 'three'
import type { Roles } from '../look/theme'
import { useBench } from '../stores/bench'
import { useView } from '../stores/prefs'

/** The joints of the chosen figure, over its skin, while one looks at its cycle; those chosen in the list stand out. */
export function Joints({ roles }: { roles: Roles }) {
  const invalidate = useThree((s) => s.invalidate)
  const index = useBench((b) =>
    b.selected?.kind === 'rig' && b.openStep === 'cycle'
      ? (b.answer?.doc.rigs.findIndex((r) => r.id === b.selected!.id && r.cycle) ?? -1)
      : -1,
  )
  const joints = useBench((b) => b.answer?.readout.rigs[index]?.cycle?.joints)
  const chosen = useView((v) => v.joints)
  const made = useMemo(() => {
    if (!joints) return null
    const bones = joints.flatMap((j, i) => (j.parent < 0 ? [] : [[j.parent, i] as const]))
    const lines = new BufferGeometry()
    lines.setAttribute('position', new BufferAttribute(new Float32Array(6 * bones.length), 3))
    const dots = new BufferGeometry()
    dots.setAttribute('position', new BufferAttribute(new Float32Array(3 * joints.length), 3))
    const colours = new Float32Array(3 * joints.length)
    joints.forEach((j, i) => new Color(chosen.includes(j.name) ? roles.orange : roles.kelp).toArray(colours, 3 * i))
    dots.setAttribute('color', new BufferAttribute(colours, 3))
    return { bones, lines, dots }
  }, [joints, chosen, roles])
  useEffect(() => {
    if (!made) return
    const { bones, lines, dots } = made
    function place() {
      const at = useBench.getState().shot.joints[index]
      const line = lines.getAttribute('position') as BufferAttribute
      const dot = dots.getAttribute('position') as BufferAttribute
      if (at?.length !== dot.array.length) return
      dot.copyArray(at)
      bones.forEach(([a, b], k) => {
        line.array.set(at.subarray(3 * a, 3 * a + 3), 6 * k)
        line.array.set(at.subarray(3 * b, 3 * b + 3), 6 * k + 3)
      })
      line.needsUpdate = dot.needsUpdate = true
      invalidate()
    }
    place()
    const end = useBench.subscribe((now, before) => now.shot !== before.shot && place())
    return () => {
      end()
      lines.dispose()
      dots.dispose()
    }
  }, [made, index, invalidate])
  if (!made) return null
  return (
    <group userData={{ joints: joints!.length }}>
      <lineSegments geometry={made.lines} frustumCulled={false} renderOrder={5} raycast={() => null}>
        <lineBasicMaterial color={roles.kelp} depthTest={false} transparent />
      </lineSegments>
      <points geometry={made.dots} frustumCulled={false} renderOrder={6} raycast={() => null}>
        <pointsMaterial size={6} sizeAttenuation={false} vertexColors depthTest={false} transparent />
      </points>
    </group>
  )
}
