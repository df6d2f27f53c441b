import Delete from '@mui/icons-material/Delete'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import TextField from '@mui/material/TextField'
import { useEffect, useState } from 'react'
import { slotsOf } from '../../core/slots'
import type { Cycle } from '../../core/page.generated'
import { feetOf, plantLabel, setEnd } from '../../core/plants'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { Choice, Figure, Pair } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { NumberField } from '../fields/NumberField'
import { SlotField } from '../fields/SlotField'
import { Remedies } from '../panels/Remedies'
import { FeetChart } from './FeetChart'
import { JointTree } from './JointTree'
import { KindFields } from './KindFields'
import { useRig, type StepProps } from './RigSteps'

const layerLabels = [
  ['heading', 'Turns to the left'],
  ['pitch', 'Nose up'],
  ['bank', 'Left side up'],
  ['aside', 'Shifts to the left'],
  ['rise', 'Shifts up'],
  ['ahead', 'Shifts ahead'],
] as const

/** Cycle: a figure's rounds, its feet and legs, what is on top, how many there are. */
export function CycleStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, on } = useRig(index)
  const first = useBench((b) => b.doc!.range.first)
  const frame = useClock((c) => c.frame)
  const cycle = rig.cycle!
  const read = info?.cycle
  const s = (v: number, q: 'length' | 'distance' | 'speed' = 'distance') => showWithUnit(v, q, units)
  const rounds = read?.rounds?.[frame - first]
  const change = (label: string, put: (c: Cycle) => void) =>
    edit(
      label,
      on((r) => put(r.cycle!)),
    )
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 1.25 }}>
      <KindFields rig={rig} index={index} only={['stride', 'start', 'pace', 'legs', 'ground']} />
      {read && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Figure label="A round" value={`${read.seconds.toFixed(2)} s, ${read.keys} keys`} word={s(read.stride)} />
          <Figure
            label="Closes"
            value={read.closed ? `within ${s(read.missPlace, 'length')}` : 'by one key more'}
            word={read.closed ? `${read.missTurn.toFixed(1)}°` : 'from last to first'}
            tone={read.missPlace > 0.02 * read.stride ? 'bad' : 'good'}
          />
          {Math.abs(read.aside) + Math.abs(read.rise) > 1e-4 && (
            <Figure
              label="Strays aside and up"
              value={`${s(read.aside, 'length')}, ${s(read.rise, 'length')}`}
              word="taken out"
            />
          )}
          <Button
            variant="outlined"
            title="The speed at which its rounds take as long as their keys."
            onClick={() =>
              edit(
                'go at its own pace',
                on((r) => void (r.travel = { speed: Number((read.pace * 1).toPrecision(9)), start: 0 })),
              )
            }
          >
            Go at its own pace: {s(read.pace, 'speed')}
          </Button>
        </Box>
      )}
      {read && cycle.legs !== 'free' && (
        <Box>
          <Box sx={{ fontSize: 11, color: roles.secondary, mb: 0.5 }}>
            {read.feet.length ? 'When its feet stand' : 'No foot that stands was found: choose one among its joints.'}
          </Box>
          <FeetChart
            cycle={read}
            now={rounds === undefined ? undefined : rounds - Math.floor(rounds)}
            onChange={(end) => change(plantLabel(read, end), (c) => setEnd(c, read, end))}
          />
          {cycle.feet && (
            <Button size="small" onClick={() => change('find its feet again', (c) => void delete c.feet)}>
              Find its feet again
            </Button>
          )}
        </Box>
      )}
      {read && <Joints rig={rig} index={index} read={read} change={change} />}
      <Layers rig={rig} index={index} change={change} />
      <Fold title="Several at once" open={(cycle.count ?? 1) > 1}>
        <KindFields rig={rig} index={index} only={['count', 'pitch', 'phase', 'stray', 'seed', 'pastEnd']} />
        <TextField
          size="small"
          label="Shares of the travel, in turn"
          key={(cycle.speeds ?? []).join(' ')}
          defaultValue={(cycle.speeds ?? []).join(' ')}
          placeholder="1 0.9 1.05"
          onBlur={(e) => {
            const list = e.target.value
              .split(/[\s,]+/)
              .filter(Boolean)
              .map(Number)
            if (list.some((v) => !Number.isFinite(v)) || list.join(' ') === (cycle.speeds ?? []).join(' ')) return
            change('set the shares of the travel', (c) => {
              if (list.length) c.speeds = list
              else delete c.speeds
            })
          }}
          slotProps={{ htmlInput: { style: { fontSize: 12 } } }}
        />
      </Fold>
      {['slide', 'reach', 'sink', 'stride'].map((id) => (
        <Remedies key={id} id={id} rig={rig.id} />
      ))}
    </Box>
  )
}

type Parts = StepProps & { change: (label: string, put: (c: Cycle) => void) => void }

/** Its joints: which turn with the way, which are feet, which are named together. */
function Joints({
  rig,
  index,
  read,
  change,
}: Parts & { read: NonNullable<ReturnType<typeof useRig>['info']>['cycle'] & object }) {
  const { roles } = useTheme()
  const chosen = useView((v) => v.joints)
  const setChosen = (joints: string[]) => useView.setState({ joints })
  useEffect(() => () => useView.setState({ joints: [] }), [rig.id])
  const [name, setName] = useState('')
  const cycle = rig.cycle!
  const sets = cycle.sets ?? []
  const follows = cycle.follow ?? []
  const label = chosen.length === 1 ? chosen[0]! : `${chosen.length} joints`
  return (
    <Fold title={`Joints, ${read.joints.length}`}>
      <JointTree joints={read.joints} chosen={chosen} onChoose={setChosen} />
      {sets.length > 0 && (
        <Box sx={{ display: 'grid', gap: 0.25 }}>
          {sets.map((set, k) => (
            <Box key={set.name} sx={{ display: 'flex', alignItems: 'center', fontSize: 12 }}>
              <Button size="small" onClick={() => setChosen(set.joints)} title={set.joints.join(', ')}>
                {set.name}
              </Button>
              <Box component="span" sx={{ color: roles.secondary, flex: 1 }}>
                {set.joints.length} joints
              </Box>
              <IconButton
                size="small"
                aria-label={`Forget the set ${set.name}`}
                onClick={() =>
                  change(`forget the set ${set.name}`, (c) => {
                    c.sets!.splice(k, 1)
                    c.follow = c.follow?.filter((n) => n !== set.name)
                    for (const l of c.layers ?? []) l.joints = l.joints.filter((n) => n !== set.name)
                  })
                }
              >
                <Delete sx={{ fontSize: 15 }} />
              </IconButton>
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <TextField
          size="small"
          placeholder="Name a set"
          value={name}
          onChange={(e) => setName(e.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Name of the set', style: { fontSize: 12, padding: '4px 8px' } } }}
        />
        <Button
          variant="outlined"
          disabled={!chosen.length || !name.trim() || sets.some((x) => x.name === name.trim())}
          onClick={() => {
            change(
              `name the set ${name.trim()}`,
              (c) => void (c.sets = [...(c.sets ?? []), { name: name.trim(), joints: chosen }]),
            )
            setName('')
          }}
        >
          Keep as a set
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gap: 0.75 }}>
        <Button
          variant="outlined"
          disabled={!chosen.length}
          onClick={() =>
            change(`let ${label} turn with the way`, (c) => void (c.follow = [...new Set([...follows, ...chosen])]))
          }
        >
          Turn with the way where they are
        </Button>
        <Button
          variant="outlined"
          disabled={!chosen.length}
          onClick={() =>
            change(`turn ${label} on top`, (c) => {
              const set = sets.find(
                (x) => x.joints.length === chosen.length && x.joints.every((j) => chosen.includes(j)),
              )
              c.layers = [...(c.layers ?? []), { name: set?.name ?? label, joints: set ? [set.name] : chosen }]
            })
          }
        >
          Turn or shift them on top
        </Button>
        <Button
          variant="outlined"
          disabled={chosen.length !== 1 || read.feet.some((f) => f.joint === chosen[0])}
          onClick={() =>
            change(`stand on ${chosen[0]}`, (c) => void (c.feet = [...(c.feet ?? feetOf(read)), { joint: chosen[0]! }]))
          }
        >
          Stand on it
        </Button>
      </Box>
      {follows.length > 0 && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          Turn with the way: {follows.join(', ')}.{' '}
          <Button
            size="small"
            onClick={() =>
              change('go by the root alone', (c) => {
                delete c.follow
                delete c.bones
              })
            }
          >
            By the root alone
          </Button>
          <KindFields rig={rig} index={index} only={['bones']} />
        </Box>
      )}
    </Fold>
  )
}

/** What turns and shifts joints on top of the cycle. */
function Layers({ rig, change }: Parts) {
  const doc = useBench((b) => b.doc)!
  const { roles } = useTheme()
  const slots = slotsOf(doc, 'rig', rig.id)
  return (rig.cycle!.layers ?? []).map((layer, k) => (
    <Fold key={k} title={`On top: ${layer.name}`} open={!layer.off}>
      <Box sx={{ fontSize: 11, color: roles.secondary }}>{layer.joints.join(', ')}, in the axes of the way.</Box>
      <Choice
        label="This layer"
        value={layer.off ? 'off' : 'on'}
        options={['on', 'off'] as const}
        onChange={(v) =>
          change(`switch ${layer.name} ${v}`, (c) => {
            if (v === 'off') c.layers![k]!.off = true
            else delete c.layers![k]!.off
          })
        }
      />
      <Pair>
        {layerLabels.map(([key, label]) => {
          const slot = slots.find((x) => x.key === `layer${k + 1}-${key}`)
          return slot && <SlotField key={key} slot={slot} label={label} />
        })}
      </Pair>
      <NumberField
        label="Looks along the way"
        value={layer.looks ?? 0}
        quantity="distance"
        onPreview={() => undefined}
        onCommit={(v) => change(`let ${layer.name} look ahead`, (c) => void (c.layers![k]!.looks = v || undefined))}
      />
      <Button
        size="small"
        color="inherit"
        onClick={() => change(`take out ${layer.name}`, (c) => void c.layers!.splice(k, 1))}
      >
        Take this layer out
      </Button>
    </Fold>
  ))
}
