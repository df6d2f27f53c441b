import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useTheme } from '@mui/material/styles'
import { useBench } from '../../stores/bench'
import { AutoField } from '../fields/AutoField'
import { Choice, Figure, Pair } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { Remedies } from '../panels/Remedies'
import { useRig, type StepProps } from './RigSteps'

/** How a train's standing pieces fall one after another, and what comes of it. */
export function FallFields({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, on, sets, info } = useRig(index)
  const first = useBench((b) => b.doc!.range.first)
  const fall = rig.train?.fall
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
          <Pair>
            <NumberField
              label="Let go at"
              value={fall.first}
              quantity="frame"
              unit="frame"
              {...sets('set when the first falls', (r, v: number) => void (fallOf(r).first = v))}
            />
            <NumberField
              label="The push takes"
              value={fall.push ?? 0}
              quantity="plain"
              unit="frames"
              min={0}
              {...sets('set the push', (r, v: number) => void (fallOf(r).push = v))}
            />
          </Pair>
          <Pair>
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
            <Choice
              label="Begins at the"
              value={fall.from ?? 'start'}
              options={['start', 'end'] as const}
              onChange={(from) =>
                edit(
                  `let them fall from the ${from}`,
                  on((r) => void (fallOf(r).from = from)),
                )
              }
            />
          </Pair>
          <NumberField
            label="First piece, from there"
            value={fall.piece ?? 1}
            quantity="count"
            min={1}
            max={Math.max((info?.count ?? 2) - 1, 1)}
            {...sets('set the first piece that falls', (r, v: number) => void (fallOf(r).piece = Math.round(v)))}
          />
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
                value={String(Math.ceil(went.ends))}
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
