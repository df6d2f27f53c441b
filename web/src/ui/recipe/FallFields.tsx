import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useTheme } from '@mui/material/styles'
import type { Document, Rig } from '../../core/page.generated'
import { seatOf } from '../../core/rigs'
import { useBench } from '../../stores/bench'
import { AutoField } from '../fields/AutoField'
import { Choice, Figure, Pair, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { Remedies } from '../panels/Remedies'
import { useRig, type StepProps } from './RigSteps'

type FallOf = NonNullable<NonNullable<Rig['train']>['fall']>
type Toucher = { key: string; id: string; rig: boolean; name: string }

const touched = (f: FallOf) => !!(f.rig || f.carrier)
const begins = (f: FallOf) => (f.rig ? `rig ${f.rig}` : f.carrier ? `carrier ${f.carrier}` : f.speed ? 'speed' : 'tilt')

/** What could come by and touch: rigs of rigid pieces, and carriers. */
function touchersOf(doc: Document, self: string): Toucher[] {
  return [
    ...doc.rigs
      .filter((r) => r.id !== self && seatOf(r) !== 'bent')
      .map((r) => ({ key: `rig ${r.id}`, id: r.id, rig: true, name: r.name })),
    ...(doc.carriers ?? []).map((c) => ({ key: `carrier ${c.id}`, id: c.id, rig: false, name: c.name })),
  ]
}

function setOff(f: FallOf, how: string, by?: Toucher) {
  delete f.rig
  delete f.carrier
  delete f.speed
  if (by?.rig) f.rig = by.id
  else if (by) f.carrier = by.id
  else if (how === 'speed') {
    f.speed = 60
    delete f.tilt
  }
}

/** How a train's standing pieces fall one after another, and what comes of it. */
export function FallFields({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, on, sets, info } = useRig(index)
  const first = useBench((b) => b.doc!.range.first)
  const fall = rig.train?.fall
  const doc = useBench((b) => b.doc!)
  const touchers = touchersOf(doc, rig.id)
  const went = info?.fall
  const fallOf = (r: typeof rig) => r.train!.fall!
  return (
    <Box>
      <FormControlLabel
        sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12 } }}
        title="Each stands on its foot and tips over its front edge when the one before touches it."
        control={
          <Checkbox
            size="small"
            sx={{ p: '3px', mr: 0.5 }}
            checked={!!fall}
            onChange={(e) =>
              edit(
                e.target.checked ? 'let pieces fall one after another' : 'let pieces not fall',
                on((r) => {
                  const t = r.train!
                  if (!e.target.checked) delete t.fall
                  else {
                    t.fall = { first: first + 12, push: 8 }
                    // They stand each by itself until they are touched.
                    t.seat = 'pivot'
                    delete t.arrive
                    delete t.leave
                  }
                }),
              )
            }
          />
        }
        label="Pieces fall one after another"
      />
      {fall && (
        <Box sx={{ display: 'grid', gap: 1, pl: 1, ml: 1, my: 0.75, borderLeft: `1px solid ${roles.rule}` }}>
          <Pick
            label="Set off"
            value={begins(fall)}
            options={['tilt', 'speed', ...touchers.map((t) => t.key)]}
            names={{
              tilt: 'pushed to a tilt',
              speed: 'pushed by a speed',
              ...Object.fromEntries(touchers.map((t) => [t.key, `touched by ${t.name}`])),
            }}
            onChange={(how) => {
              const by = touchers.find((t) => t.key === how)
              edit(
                by ? `let ${by.name} set it off` : 'push the first',
                on((r) => setOff(fallOf(r), how, by)),
              )
            }}
          />
          {!touched(fall) && (
            <>
              <Pair>
                <NumberField
                  label={fall.speed ? 'Pushed at' : 'Let go at'}
                  value={fall.first}
                  quantity="frame"
                  unit="frame"
                  {...sets('set when the first falls', (r, v: number) => void (fallOf(r).first = v))}
                />
                {fall.speed ? (
                  <NumberField
                    label="Pushed by"
                    value={fall.speed}
                    quantity="plain"
                    unit="°/s"
                    min={0.1}
                    {...sets('set the push', (r, v: number) => void (fallOf(r).speed = v))}
                  />
                ) : (
                  <NumberField
                    label="The push takes"
                    at="rigs/*/train/fall/push"
                    value={fall.push ?? 0}
                    quantity="plain"
                    unit="frames"
                    {...sets('set the push', (r, v: number) => void (fallOf(r).push = v))}
                  />
                )}
              </Pair>
              <Choice
                label="Falls from the"
                value={fall.from ?? 'start'}
                options={['start', 'end', 'both'] as const}
                names={{ both: 'middle, both ways' }}
                onChange={(from) =>
                  edit(
                    from === 'both' ? 'let them fall both ways' : `let them fall from the ${from}`,
                    on((r) => {
                      fallOf(r).from = from
                      if ((from === 'both') !== (fall.from === 'both')) delete fallOf(r).piece
                    }),
                  )
                }
              />
              <Pair>
                {!fall.speed && (
                  <AutoField
                    label="Pushed to"
                    word={went ? `just over, ${went.tilt.toFixed(1)}°` : 'just over its balance'}
                    start={Number((went?.tilt ?? 12).toFixed(1))}
                    value={fall.tilt || undefined}
                    quantity="angle"
                    min={0}
                    max={89.9}
                    onSet={(v) =>
                      edit(
                        'tilt the first',
                        on((r) => void (fallOf(r).tilt = v)),
                      )
                    }
                    {...sets('tilt the first', (r, v: number) => void (fallOf(r).tilt = v))}
                  />
                )}
                <NumberField
                  label={fall.from === 'both' ? 'First ahead, piece' : 'First piece, from there'}
                  value={fall.piece || (fall.from === 'both' ? (went?.first ?? 2) : 1)}
                  quantity="count"
                  min={fall.from === 'both' ? 2 : 1}
                  max={Math.max((info?.count ?? 2) - (fall.from === 'both' ? 0 : 1), 1)}
                  {...sets('set the first piece that falls', (r, v: number) => void (fallOf(r).piece = Math.round(v)))}
                />
              </Pair>
            </>
          )}
          {touched(fall) && went && went.first > 0 && (
            <Figure label="Touched" value={`piece ${went.first}`} word={`let go at frame ${went.begins.toFixed(1)}`} />
          )}
          {went && (
            <Box sx={{ display: 'grid', gap: 0.5 }}>
              <Figure
                label="Fall"
                value={`${went.fallen} of ${went.of}`}
                word={went.why ? 'stops' : 'all'}
                tone={went.why ? 'bad' : 'good'}
              />
              {went.why && <Box sx={{ fontSize: 11, color: roles.redText }}>Then {went.why}.</Box>}
              <Figure
                label="The last lies at frame"
                value={went.fallen ? String(Math.ceil(went.ends)) : 'none'}
                word={went.rate ? `${went.rate.toPrecision(3)} a second` : undefined}
              />
              <Box sx={{ fontSize: 11, color: roles.secondary }}>
                Worked out without friction: with it they are slower.
              </Box>
              <Remedies id="fall" rig={rig.id} />
            </Box>
          )}
        </Box>
      )}
    </Box>
  )
}
