import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import type { Rig } from '../../core/page.generated'
import { facingNames } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import type { Value } from '../../core/value'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick, Vec3Field } from '../fields/fields'
import { MovingField } from '../fields/MovingField'
import { NumberField } from '../fields/NumberField'
import { Remedies } from '../panels/Remedies'
import { takeOutRoll } from '../shortcuts'
import { useRig, type StepProps } from './RigSteps'

/** Facing: which way is up along the path. */
export function FacingStep({ rig, index }: StepProps) {
  const { edit, pieces, on, sets } = useRig(index)
  const closed = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed ?? false)
  const f = rig.facing
  const roll = f.roll ?? 0
  const others = useBench((b) => b.doc?.paths)?.filter((p) => p.id !== rig.path) ?? []
  const say = useBench((b) => b.say)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        bare
        label="Facing"
        value={f.mode}
        options={['loopside', 'steady', 'least-twist'] as const}
        names={facingNames}
        hints={{
          loopside: 'Up looks out of a flat loop: treads, belts, chains.',
          steady: 'Up stays as near to one direction as the path lets it.',
          'least-twist': 'Up is carried along and turns no more than the path does: cables, bodies.',
        }}
        onChange={(mode) =>
          edit(
            `face ${facingNames[mode]}`,
            on((r) => void (r.facing.mode = mode)),
          )
        }
      />
      <Choice
        label="Or by something else"
        value={f.mode}
        options={['guide', 'turn'] as Rig['facing']['mode'][]}
        names={facingNames}
        onChange={(mode) => {
          if (mode === 'guide' && !f.guide && others.length === 0) {
            say('Facing towards a guide needs a second path. Add one in the rack first.')
            return
          }
          edit(
            `face ${facingNames[mode]}`,
            on((r) => {
              r.facing.mode = mode
              if (mode === 'guide') r.facing.guide ??= others[0]!.id
            }),
          )
        }}
      />
      {f.mode === 'guide' && (
        <Pick
          inline
          label="Guide"
          value={f.guide ?? ''}
          options={others.map((p) => p.id)}
          names={Object.fromEntries(others.map((p) => [p.id, p.name]))}
          onChange={(v) =>
            edit(
              'change the guide',
              on((r) => void (r.facing.guide = v)),
            )
          }
        />
      )}
      {f.mode === 'loopside' && (
        <Choice
          label="Side"
          value={f.inward ? 'inward' : 'outward'}
          options={['outward', 'inward'] as const}
          onChange={(v) =>
            edit(
              `face ${v}`,
              on((r) => void (r.facing.inward = v === 'inward')),
            )
          }
        />
      )}
      {(f.mode === 'steady' || f.mode === 'least-twist') && (
        <Vec3Field
          label={f.mode === 'steady' ? 'Fixed up' : 'Up at the start'}
          quantity="plain"
          value={f.up ?? [0, 1, 0]}
          onCommit={(v) =>
            edit(
              'set up',
              on((r) => void (r.facing.up = v)),
            )
          }
        />
      )}
      <Pair>
        <MovingField
          label="Roll"
          value={roll}
          present={pieces?.roll ?? 0}
          quantity="angle"
          {...sets('set roll', (r, v: Value) => void (r.facing.roll = v))}
        />
        <NumberField
          label="Extra turns"
          value={f.turns ?? 0}
          quantity={closed ? 'count' : 'plain'}
          unit="turns"
          {...sets('set extra turns', (r, v: number) => void (r.facing.turns = v))}
        />
        {f.mode === 'least-twist' && closed && (
          <NumberField
            label="Looks alike every"
            value={f.symmetry || 1}
            quantity="count"
            unit="th of a turn"
            min={1}
            max={360}
            onCommit={(v) =>
              edit(
                'set symmetry',
                on((r) => void (r.facing.symmetry = Math.round(v))),
              )
            }
          />
        )}
      </Pair>
      <RollBeads rig={rig} index={index} />
      <FacingFigures rig={rig} index={index} />
    </Box>
  )
}

/** What came of the facing: how far a guide is, what is left over at the seam, where up is carried over. */
function FacingFigures({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { units, info } = useRig(index)
  const closed = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.closed ?? false)
  const f = rig.facing
  if (!info) return null
  return (
    <Box
      sx={{
        borderTop: `1px solid ${roles.rule}`,
        pt: 1,
        display: 'grid',
        gap: 0.5,
        fontSize: 11,
        color: roles.secondary,
      }}
    >
      {f.mode === 'guide' && (
        <>
          <Figure
            label="Guide, nearest"
            value={showWithUnit(info.guideNear ?? 0, 'length', units)}
            word={
              (info.guideNear ?? 0) < 0.02 * (info.pitch || 1)
                ? `too near at ${showWithUnit(info.guideNearAt ?? 0, 'distance', units)}`
                : undefined
            }
            tone="near"
          />
          <Figure
            label="Runs ahead by"
            value={showWithUnit(info.guideAhead ?? 0, 'angle', units)}
            word={
              (info.guideAhead ?? 0) > 60
                ? `runs away at ${showWithUnit(info.guideAheadAt ?? 0, 'distance', units)}`
                : undefined
            }
            tone="near"
          />
        </>
      )}
      {info.notes?.map((n) => (
        <Box key={n} sx={{ color: roles.amberText }}>
          {n}
        </Box>
      ))}
      {f.mode === 'least-twist' && closed && (
        <Figure label="Left over at the seam, spread out" value={showWithUnit(info.residualDeg, 'angle', units)} />
      )}
      {f.mode === 'loopside' && (
        <Figure
          label="Off its plane"
          value={showWithUnit(info.offPlane, 'length', units)}
          word={info.offPlane < 1e-6 ? 'flat' : 'not flat'}
          tone={info.offPlane < 1e-6 ? 'good' : 'near'}
        />
      )}
      {info.straight && <span>The path is straight: no side of it is outward, so one was chosen.</span>}
      {info.along?.map((a) => (
        <span key={a.from}>
          From {showWithUnit(a.from, 'distance', units)} to {showWithUnit(a.to, 'distance', units)}{' '}
          {f.mode === 'turn'
            ? 'the path hardly bends'
            : f.mode === 'guide'
              ? 'the guide says nothing'
              : 'the path runs along its up'}
          ; up is carried over there and turns by {showWithUnit(a.turnDeg, 'angle', units)}.
        </span>
      ))}
      <Remedies id="flips" rig={rig.id} />
    </Box>
  )
}

/** Roll by distance, as numbers: the same beads as on the length strip. */
function RollBeads({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, on, sets } = useRig(index)
  const length = useBench((b) => b.answer?.readout.paths.find((p) => p.id === rig.path)?.length) ?? 1
  const chosen = useBench((b) => b.rollBead)
  const beads = rig.facing.rollAt ?? []
  const order = (r: Rig) => void r.facing.rollAt!.sort((a, b) => a.at - b.at)
  return (
    <Box sx={{ display: 'grid', gap: 0.5 }} data-testid="roll-beads">
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box sx={{ flex: 1, fontSize: 11, color: roles.secondary }}>
          {beads.length ? 'Roll keys by distance' : 'Roll keys by distance: none'}
        </Box>
        <Button
          sx={{ minHeight: 22, px: 0.75 }}
          onClick={() =>
            edit(
              'add a roll key',
              on((r) => {
                const last = r.facing.rollAt?.at(-1)
                const at = last ? Math.min(last.at + length / 8, (last.at + length) / 2) : length / 4
                r.facing.rollAt = [...(r.facing.rollAt ?? []), { at: round(at), roll: last?.roll ?? 0, ease: 'eased' }]
              }),
            )
          }
        >
          Add roll key
        </Button>
      </Box>
      {beads.map((b, i) => (
        <Box
          key={i}
          sx={{
            display: 'grid',
            gridTemplateColumns: '76px 60px 1fr 20px',
            gap: 0.375,
            alignItems: 'center',
            borderRadius: '6px',
            background: chosen === i ? roles.tint : 'transparent',
          }}
          onFocus={() => useBench.setState({ rollBead: i })}
        >
          <NumberField
            hideLabel
            label={`Distance of roll key ${i + 1}`}
            at="rigs/*/facing/rollAt/*/at"
            value={b.at}
            quantity="distance"
            onCommit={(v) =>
              edit(
                'move a roll key',
                on((r) => {
                  const taken = r.facing.rollAt!.some((x, k) => k !== i && x.at === v)
                  r.facing.rollAt![i]!.at = taken ? v + 1e-6 : v
                  order(r)
                }),
              )
            }
          />
          <NumberField
            hideLabel
            label={`Roll of roll key ${i + 1}`}
            value={b.roll}
            quantity="angle"
            {...sets('set a roll key', (r, v: number) => void (r.facing.rollAt![i]!.roll = v))}
          />
          <Pick
            hideLabel
            label={`Shape after roll key ${i + 1}`}
            value={b.ease ?? 'straight'}
            options={['straight', 'eased'] as const}
            onChange={(v) =>
              edit(
                `go on ${v} from a roll key`,
                on((r) => void (r.facing.rollAt![i]!.ease = v)),
              )
            }
          />
          <IconButton
            aria-label={`Remove roll key ${i + 1}`}
            sx={{ width: 22, height: 22, '& svg': { fontSize: 14 } }}
            onClick={() => takeOutRoll(i)}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
    </Box>
  )
}

const round = (v: number) => Math.round(v * 1e4) / 1e4
