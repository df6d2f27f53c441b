import { useMemo } from 'react'
import { Vector3 } from 'three'
import { useBench } from '../stores/bench'
import { chosenRig } from '../stores/chosen'
import { useClock } from '../stores/clock'
import type { Roles } from '../look/theme'
import { Posed } from './Posed'
import { Line } from './Line'

/** Neighbouring teeth that turn by more than this are drawn as a flip. */
const flip = Math.PI / 4

/** The teeth at which a comb of places and ups flips, counted from 0. */
export function flipsOf(comb: readonly number[]): number[] {
  const out: number[] = []
  for (let i = 6; i + 5 < comb.length; i += 6) {
    const dot = comb[i + 3]! * comb[i - 3]! + comb[i + 4]! * comb[i - 2]! + comb[i + 5]! * comb[i - 1]!
    if (dot < Math.cos(flip)) out.push(i / 6)
  }
  return out
}

/**
 * The chosen rig's ups along its path, as a comb: shown with the facing step, with
 * roll beads and with the flips check. Flips show always.
 */
export function Comb({ roles, size }: { roles: Roles; size: number }) {
  const shown = useBench(
    (b) => b.openStep === 'facing' || b.shownCheck === 'flips' || (chosenRig(b)?.rig.facing.rollAt?.length ?? 0) > 0,
  )
  const rig = useBench((b) => chosenRig(b)?.index ?? -1)
  const comb = useBench((b) => b.answer?.readout.rigs[rig]?.comb)
  const [calm, bad] = useMemo(() => {
    const calm: Vector3[] = []
    const bad: Vector3[] = []
    const reach = size * 0.055
    const flips = new Set(flipsOf(comb ?? []))
    for (let i = 0; i + 5 < (comb?.length ?? 0); i += 6) {
      const at = new Vector3(comb![i], comb![i + 1], comb![i + 2])
      const up = new Vector3(comb![i + 3], comb![i + 4], comb![i + 5])
      ;(flips.has(i / 6) ? bad : calm).push(at, at.clone().addScaledVector(up, reach))
    }
    return [calm, bad]
  }, [comb, size])
  const path = useBench((b) => b.answer?.doc.paths.findIndex((p) => p.id === b.answer?.doc.rigs[rig]?.path) ?? -1)
  // Of a path that changes its shape the comb is that of the first frame.
  const away = useBench(
    (b) =>
      b.shot.lines[path] !== undefined && b.doc?.range.first !== useClock.getState().frame && !b.answer?.paths[path],
  )
  if (away) return null
  return (
    <Posed space="paths" index={path}>
      {shown && calm.length > 0 && (
        <Line points={calm} segments color={roles.brass} lineWidth={1.4} transparent opacity={0.85} renderOrder={3} />
      )}
      {bad.length > 0 && (
        <Line points={bad} segments color={roles.red} lineWidth={2.6} depthTest={false} renderOrder={4} />
      )}
    </Posed>
  )
}
