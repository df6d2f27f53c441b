import { moved, scaledHandles, type Chosen } from '../../core/keys'
import type { Slot } from '../../core/slots'
import type { Key, Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { NumberField } from '../fields/NumberField'

/** What the fields of chosen keys are given. */
interface OfKeys {
  slots: Slot[]
  chosen: Chosen
  setChosen: (c: Chosen) => void
  /** Changes each value that has chosen keys; false where two keys would stand on one frame. */
  change: (how: 'preview' | 'edit', label: string, put: (m: string) => Value | null) => boolean
  /** The chosen keys with the values they are of. */
  picked: readonly [string, Key][]
}

const clash = () => useBench.getState().say('Two keys of one value cannot stand on one frame: nothing was changed.')

/** Frame and value of the one chosen key. */
export function OneKey({ slots, chosen, setChosen, change, picked }: OfKeys) {
  const doc = useBench((b) => b.doc)!
  const at = (m: string) => slots.find((s) => s.key === m)!
  const one = picked[0]!
  return (
    <>
      <span>Frame</span>
      <NumberField
        hideLabel
        label="Frame of the chosen key"
        value={one[1].frame}
        quantity="frame"
        width={60}
        onCommit={(v) => {
          if (change('edit', 'move a key', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ frame: v })))) {
            setChosen({ [one[0]]: [v] })
          } else clash()
        }}
      />
      <NumberField
        hideLabel
        label="Value of the chosen key"
        value={one[1].value}
        quantity={at(one[0]).quantity}
        width={96}
        onPreview={(v) => change('preview', '', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ value: v })))}
        onCommit={(v) => change('edit', 'set a key', (m) => moved(at(m).get(doc), chosen[m]!, () => ({ value: v })))}
      />
    </>
  )
}

/** Several chosen keys are shifted, stretched in time and scaled. */
export function ManyKeys({ slots, chosen, setChosen, change, picked }: OfKeys) {
  const doc = useBench((b) => b.doc)!
  const at = (m: string) => slots.find((s) => s.key === m)!
  const from = Math.min(...picked.map(([, k]) => k.frame))
  const frames = (to: (f: number) => number) =>
    Object.fromEntries(slots.map((s) => [s.key, (chosen[s.key] ?? []).map(to)])) as Chosen
  return (
    <>
      <span>{picked.length} keys: shift</span>
      <NumberField
        hideLabel
        label="Shift the chosen keys"
        value={0}
        quantity="count"
        unit="f"
        width={58}
        onCommit={(v) => {
          const by = Math.round(v)
          if (
            change('edit', 'shift keys', (m) => moved(at(m).get(doc), chosen[m]!, (k) => ({ frame: k.frame + by })))
          ) {
            setChosen(frames((f) => f + by))
          } else clash()
        }}
      />
      <span>stretch</span>
      <NumberField
        hideLabel
        label="Stretch the chosen keys in time"
        value={1}
        quantity="plain"
        unit="×"
        width={58}
        min={0.001}
        onCommit={(k) => {
          const to = (f: number) => from + Math.round((f - from) * k)
          const put = (m: string) =>
            moved(at(m).get(doc), chosen[m]!, (o) => ({ frame: to(o.frame), ...scaledHandles(o, k, 1) }))
          if (change('edit', 'stretch keys', put)) setChosen(frames(to))
          else clash()
        }}
      />
      <span>scale</span>
      <NumberField
        hideLabel
        label="Scale the chosen values"
        value={1}
        quantity="plain"
        unit="×"
        width={58}
        onCommit={(k) =>
          change('edit', 'scale keys', (m) =>
            moved(at(m).get(doc), chosen[m]!, (o) => ({ value: o.value * k, ...scaledHandles(o, 1, k) })),
          )
        }
      />
    </>
  )
}
