import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { isKeyed, isRunning, type Key, type Keyed, type Value } from '../core/value'
import { useBench } from '../stores/bench'
import { useClock } from '../stores/clock'
import { Choice, Pair, Pick } from './fields'
import { NumberField } from './NumberField'
import { Remedies } from './Remedies'
import { useRig, type StepProps } from './RigSteps'
import { EndsSelect } from './TimeStrip'

type Drive = 'set' | 'keys' | 'speed'
const shapes = ['straight', 'eased', 'stepped', 'free'] as const

/** Travel: what moves the rig. */
export function TravelStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, pieces, on, sets } = useRig(index)
  const frame = useClock((c) => c.frame)
  const range = useBench((b) => b.doc!.range)
  const v = rig.travel
  const drive: Drive = isKeyed(v) ? 'keys' : isRunning(v) ? 'speed' : 'set'
  const put = (value: Value) => on((r) => void (r.travel = value))
  const change = (to: Drive) => {
    const present = pieces?.travel ?? 0
    const next: Value =
      to === 'set'
        ? present
        : to === 'speed'
          ? { speed: 0.5 }
          : {
              keys: [
                { frame: range.first, value: present, shape: 'straight' },
                { frame: range.last, value: present + 1, shape: 'straight' },
              ],
              after: 'carry on',
            }
    edit({ set: 'set travel by hand', keys: 'key travel', speed: 'run at a speed' }[to], put(next))
  }
  const keyAt = isKeyed(v) ? v.keys.findIndex((k) => k.frame === frame) : -1
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        label="What moves it"
        value={drive}
        options={['set', 'keys', 'speed'] as const}
        names={{ set: 'by hand' }}
        onChange={change}
      />
      {typeof v === 'number' && (
        <NumberField
          label="Travel"
          value={v}
          quantity="distance"
          {...sets('set travel', (r, x: number) => void (r.travel = x))}
        />
      )}
      {isRunning(v) && (
        <>
          <Pair>
            <NumberField
              label="Speed"
              value={v.speed}
              quantity="speed"
              {...sets('set speed', (r, x: number) => void (r.travel = { ...v, speed: x }))}
            />
            <NumberField
              label="Travel at the start"
              value={v.start ?? 0}
              quantity="distance"
              {...sets('set the start', (r, x: number) => void (r.travel = { ...v, start: x }))}
            />
          </Pair>
          <Button variant="outlined" onClick={() => edit('run the other way', put({ ...v, speed: -v.speed }))}>
            Run the other way
          </Button>
        </>
      )}
      {isKeyed(v) && (
        <>
          <Box sx={{ display: 'grid', gap: 0.5, maxHeight: 150, overflow: 'auto' }}>
            {v.keys.map((k, i) => (
              <KeyRow
                key={k.frame}
                k={k}
                here={i === keyAt}
                onChange={(nk, label) => edit(label, put({ ...v, keys: v.keys.map((o, j) => (j === i ? nk : o)) }))}
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
              onChange={(before) => edit(`${before} before the first key`, put({ ...v, before }))}
            />
            after
            <EndsSelect
              ends={v.after ?? 'hold'}
              onChange={(after) => edit(`${after} after the last key`, put({ ...v, after }))}
            />
          </Box>
          <WithinFields value={v} onChange={(nv, label) => edit(label, put(nv))} />
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            Pull a piece in the view, or press Key in the time strip, to set a key.
          </Box>
        </>
      )}
      <Remedies id="loop" rig={rig.id} />
    </Box>
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

function KeyRow({ k, here, onChange }: { k: Key; here: boolean; onChange: (k: Key, label: string) => void }) {
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
        label={`Travel at frame ${k.frame}`}
        hideLabel
        value={k.value}
        quantity="distance"
        onCommit={(value) => onChange({ ...k, value }, `set the key at frame ${k.frame}`)}
      />
      <Pick
        hideLabel
        label={`Shape after frame ${k.frame}`}
        value={k.shape ?? 'straight'}
        options={shapes}
        onChange={(shape) => onChange({ ...k, shape }, `${shape} after frame ${k.frame}`)}
      />
    </Box>
  )
}
