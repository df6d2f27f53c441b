import { Vector3 } from 'three'
import { presentOf, slotsOf, type Slot } from '../core/slots'
import { shifted } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import type { Roles } from '../look/theme'
import { Hoop, type Grip } from './Hoop'
import { Posed, poseMatrix } from './Posed'

/** The carriers: each a hoop with its heading, to be chosen, pulled over the ground and turned. */
export function Carriers({ roles, size }: { roles: Roles; size: number }) {
  const carriers = useBench((b) => b.answer?.doc.carriers)
  const selected = useBench((b) => (b.selected?.kind === 'carrier' ? b.selected.id : ''))
  return (
    <>
      {carriers?.map((c, i) => (
        <Posed key={c.id} space="carriers" index={i}>
          <Hoop
            kind="carrier"
            id={c.id}
            name={c.name}
            radius={size * 0.075}
            chosen={selected === c.id}
            roles={roles}
            grip={() => gripOf(c.id, i)}
          />
        </Posed>
      ))}
    </>
  )
}

/** Moves a carrier in its parent's space: values that are keyed get keys at the play head. */
function gripOf(id: string, index: number): Grip {
  const bench = useBench.getState()
  const doc = bench.base!
  const frame = useClock.getState().frame
  const slots = slotsOf(doc, 'carrier', id)
  const by = (key: string) => slots.find((s) => s.key === key)!
  const present = (s: Slot) => presentOf(s, doc, bench.answer?.readout.values, bench.shot.values)
  const now = { x: present(by('x')), y: present(by('y')), z: present(by('z')), heading: present(by('heading')) }
  const carrier = doc.carriers![index]!
  const parent = doc.carriers!.findIndex((c) => c.id === (carrier.parent ?? (doc.master === id ? '' : doc.master)))
  return {
    at: new Vector3().setFromMatrixPosition(poseMatrix(bench.shot.carriers[index])),
    parent: poseMatrix(parent < 0 || carrier.ride ? undefined : bench.shot.carriers[parent]),
    heading: now.heading,
    put: (d, delta, turned) => {
      for (const [key, x] of [
        ['x', delta.x],
        ['y', delta.y],
        ['z', delta.z],
        ['heading', turned],
      ] as const) {
        if (Math.abs(x) > 1e-12) by(key).put(d, shifted(by(key).get(doc), x, frame, now[key]))
      }
    },
  }
}
