import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Slot } from '../../core/slots'
import type { Quantity } from '../../core/units'
import type { Key, Keyed, Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { Choice, Pair, Pick } from './fields'
import { NumberField } from './NumberField'
import { EndsSelect, keyShapes } from './EndsSelect'

/** The keys of a value, how it goes on before and after them, and the frames that they act in. */
export function KeysFields({
  slot,
  value: v,
  keep,
  label,
}: {
  slot: Slot
  value: Keyed
  keep: (said: string, v: Value) => void
  label: string
}) {
  const { roles } = useTheme()
  const frame = useClock((c) => c.frame)
  return (
    <>
      <Box sx={{ display: 'grid', gap: 0.5, maxHeight: 150, overflow: 'auto' }}>
        {v.keys.map((k, i) => (
          <KeyRow
            key={k.frame}
            k={k}
            label={label}
            quantity={slot.quantity}
            here={k.frame === frame}
            onChange={(nk, said) => keep(said, { ...v, keys: v.keys.map((o, j) => (j === i ? nk : o)) })}
          />
        ))}
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'auto 1fr auto 1fr',
          alignItems: 'center',
          gap: 0.75,
          fontSize: 11,
          color: roles.secondary,
        }}
      >
        before
        <EndsSelect
          label="Before the first key"
          ends={v.before ?? 'hold'}
          onChange={(before) => keep(`${before} before the first key`, { ...v, before })}
        />
        after
        <EndsSelect
          ends={v.after ?? 'hold'}
          onChange={(after) => keep(`${after} after the last key`, { ...v, after })}
        />
      </Box>
      <WithinFields value={v} onChange={(nv, said) => keep(said, nv)} />
    </>
  )
}

/** The frames between which keys and their ends act. */
function WithinFields({ value, onChange }: { value: Keyed; onChange: (v: Keyed, label: string) => void }) {
  const range = useBench((b) => b.doc!.range)
  const w = value.within
  const set = (i: 0 | 1) => (f: number) => {
    const next: [number, number] = [...w!]
    next[i] = f
    onChange({ ...value, within: next }, 'set the frames that the keys act in')
  }
  return (
    <>
      <Choice
        label="The keys act"
        value={w ? 'within frames' : 'always'}
        options={['always', 'within frames'] as const}
        onChange={(to) => {
          if (to === 'always') onChange({ ...value, within: undefined }, 'let the keys act always')
          else onChange({ ...value, within: [range.first, range.last] }, 'let the keys act within frames')
        }}
      />
      {w && (
        <Pair>
          <NumberField label="From frame" value={w[0]} quantity="frame" max={w[1]} onCommit={set(0)} />
          <NumberField label="To frame" value={w[1]} quantity="frame" min={w[0]} onCommit={set(1)} />
        </Pair>
      )}
    </>
  )
}

function KeyRow({
  k,
  label,
  quantity,
  here,
  onChange,
}: {
  k: Key
  label: string
  quantity: Quantity
  here: boolean
  onChange: (k: Key, label: string) => void
}) {
  const { roles } = useTheme()
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '58px 1fr 84px', gap: 0.75, alignItems: 'center' }}>
      <Button
        size="small"
        onClick={() => useClock.getState().goTo(k.frame)}
        title="Go to this frame"
        sx={{
          minHeight: 26,
          p: 0,
          justifyContent: 'flex-start',
          color: here ? roles.orangeText : roles.brassText,
          font: `500 12px/16px 'IBM Plex Mono', monospace`,
        }}
      >
        <svg width="10" height="10" style={{ marginRight: 5 }} aria-hidden>
          <circle cx="5" cy="5" r="3.6" fill={roles.brass} />
        </svg>
        {k.frame}
      </Button>
      <NumberField
        label={`${label} at frame ${k.frame}`}
        hideLabel
        value={k.value}
        quantity={quantity}
        onCommit={(value) => onChange({ ...k, value }, `set the key at frame ${k.frame}`)}
      />
      <Pick
        hideLabel
        label={`Shape after frame ${k.frame}`}
        value={k.shape ?? 'straight'}
        options={keyShapes}
        onChange={(shape) => onChange({ ...k, shape }, `${shape} after frame ${k.frame}`)}
      />
    </Box>
  )
}
