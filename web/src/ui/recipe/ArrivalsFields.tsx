import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useTheme } from '@mui/material/styles'
import type { Rig, Train } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { Choice, Pair, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { useRig, type StepProps } from './RigSteps'

type Which = 'arrive' | 'leave'
type Arrivals = NonNullable<Train['arrive']>

const orders = ['last first', 'first first', 'by distance', 'scattered'] as const

/** How a train's pieces come into their places, and how they leave them. */
export function ArrivalsFields({ rig, index }: StepProps) {
  const { edit, on } = useRig(index)
  const range = useBench((b) => b.doc!.range)
  const count = useBench((b) => b.answer?.readout.rigs[index]?.count) ?? 1
  const fresh = (which: Which): Arrivals => {
    const half = Math.max(Math.floor((range.last - range.first + 1) / 3), 2)
    const delay = Math.max(Number((half / 2 / count).toPrecision(2)), 0)
    return which === 'arrive'
      ? { first: range.first, delay, takes: Math.ceil(half / 2), order: 'last first', end: 'start', ease: 'eased' }
      : { first: range.last - half, delay, takes: Math.ceil(half / 2), order: 'last first', end: 'end', ease: 'eased' }
  }
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }}>
      {(['arrive', 'leave'] as const).map((which) => (
        <Box key={which}>
          <FormControlLabel
            sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12 } }}
            control={
              <Checkbox
                size="small"
                sx={{ p: '3px', mr: 0.5 }}
                checked={!!rig.train?.[which]}
                onChange={(e) =>
                  edit(
                    e.target.checked ? `let pieces ${which} one after another` : `let pieces not ${which}`,
                    on((r) => void (r.train![which] = e.target.checked ? fresh(which) : undefined)),
                  )
                }
              />
            }
            label={which === 'arrive' ? 'Pieces arrive one after another' : 'Pieces leave one after another'}
          />
          {rig.train?.[which] && <OneWay which={which} value={rig.train[which]} index={index} />}
        </Box>
      ))}
    </Box>
  )
}

function OneWay({ which, value: a, index }: { which: Which; value: Arrivals; index: number }) {
  const { roles } = useTheme()
  const { edit, on, sets } = useRig(index)
  const put = (r: Rig, change: Partial<Arrivals>) => void Object.assign(r.train![which]!, change)
  const pick = (said: string, change: Partial<Arrivals>) =>
    edit(
      said,
      on((r) => put(r, change)),
    )
  const noun = which === 'arrive' ? 'arrival' : 'leaving'
  return (
    <Box sx={{ display: 'grid', gap: 1, pl: 1, ml: 1, my: 0.75, borderLeft: `1px solid ${roles.rule}` }}>
      <Pair>
        <NumberField
          label={`First ${noun}`}
          value={a.first}
          quantity="frame"
          unit="frame"
          {...sets(`set the first ${noun}`, (r, v: number) => put(r, { first: v }))}
        />
        <NumberField
          label="Takes"
          at="rigs/*/train/arrive/takes"
          value={a.takes}
          quantity="plain"
          unit="frames"
          {...sets(`set how long ${noun} takes`, (r, v: number) => put(r, { takes: v }))}
        />
        <NumberField
          label="From piece to piece"
          at="rigs/*/train/arrive/delay"
          value={a.delay}
          quantity="plain"
          unit="frames"
          {...sets(`set the delay of ${noun}`, (r, v: number) => put(r, { delay: v }))}
        />
        <Pick
          label="Who goes when"
          value={a.order ?? 'last first'}
          options={orders}
          onChange={(order) => pick(`${order}`, { order })}
        />
      </Pair>
      {a.order === 'scattered' && (
        <NumberField
          label="Seed"
          value={a.seed ?? 0}
          quantity="count"
          onCommit={(v) => pick('set the seed', { seed: Math.round(v) })}
        />
      )}
      <Choice
        label={which === 'arrive' ? 'They come from' : 'They go to'}
        value={a.end ?? 'start'}
        options={['start', 'end'] as const}
        names={
          which === 'arrive'
            ? { start: 'from the start', end: 'from the end' }
            : { start: 'to the start', end: 'to the end' }
        }
        onChange={(end) => pick(`${which} by the ${end}`, { end })}
      />
      <Choice
        label="How they go"
        value={a.ease ?? 'eased'}
        options={['eased', 'straight'] as const}
        onChange={(ease) => pick(`${which} ${ease}`, { ease })}
      />
      <Choice
        label="While they wait"
        value={a.shown ? 'shown' : 'hidden'}
        options={['hidden', 'shown'] as const}
        names={{ hidden: 'hidden while waiting', shown: 'shown' }}
        onChange={(v) => pick(`pieces ${v} while waiting`, { shown: v === 'shown' || undefined })}
      />
    </Box>
  )
}
