import type { Quantity } from '../../core/units'
import { isKeyed, sourceOf, withKey, type Value } from '../../core/value'
import { useClock } from '../../stores/clock'
import { KeyBead } from './KeyBead'
import { NumberField } from './NumberField'

interface Props {
  label: string
  /** What the value is called in the history; the label where it is not given. */
  name?: string
  /** What the document holds, and what it comes to at the play head. */
  value: Value
  present: number
  quantity: Quantity
  hideLabel?: boolean
  width?: number
  colour?: string
  /** Puts the bead beside the field instead of before its label. */
  beadBeside?: boolean
  onPreview: (v: Value) => void
  onCommit: (v: Value, label: string) => void
}

/**
 * A number that may move, with the bead that says whether it does. With keys, what
 * is typed becomes a key at the play head; a running one is shown as driven.
 */
export function MovingField({
  label,
  name = label.toLowerCase(),
  value,
  present,
  onPreview,
  onCommit,
  beadBeside,
  ...rest
}: Props) {
  const frame = useClock((c) => c.frame)
  const put = (v: number): Value => (isKeyed(value) ? withKey(value, frame, v) : v)
  const bead = (
    <KeyBead value={value} frame={frame} label={name} present={present} onChange={onCommit} withText={beadBeside} />
  )
  return (
    <>
      <NumberField
        {...rest}
        label={label}
        value={typeof value === 'number' ? value : present}
        computed={!['set', 'keys'].includes(sourceOf(value)) && 'driven'}
        adornment={beadBeside ? undefined : bead}
        onPreview={(v) => onPreview(put(v))}
        onCommit={(v) => onCommit(put(v), isKeyed(value) ? `key ${name}` : `set ${name}`)}
      />
      {beadBeside && bead}
    </>
  )
}
