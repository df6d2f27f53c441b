import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { fabricFields, fabrics, flowFields } from '../../core/forms'
import { slotsOf } from '../../core/slots'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { FormFields } from '../fields/FormFields'
import { NumberField } from '../fields/NumberField'
import { SlotField } from '../fields/SlotField'
import { Remedies } from '../panels/Remedies'
import { KindFields } from './KindFields'
import { useRig, type StepProps } from './RigSteps'

const beginning = [
  'count',
  'pitch',
  'thickness',
  'friction',
  'through',
  'buoyancy',
  'damping',
  'wrinkle',
  'seed',
  'settle',
  'rounds',
  'ease',
  'substeps',
]

/** Cloth: what holds it, what it is of, what is about it, how it begins. */
export function ClothStep({ rig, index }: StepProps) {
  const { roles } = useTheme()
  const { edit, units, info, on, sets } = useRig(index)
  const doc = useBench((b) => b.doc)!
  const picking = useBench((b) => b.tool.kind === 'pins' && b.tool.rig === rig.id)
  const drape = rig.drape!
  const cloth = info?.cloth
  const s = (v: number, q: 'length' | 'distance' = 'length') => showWithUnit(v, q, units)
  const [tail, head] = ['tail', 'head'].map((k) => slotsOf(doc, 'rig', rig.id).find((x) => x.key === k))
  const named = fabrics.find((f) => JSON.stringify(f.fabric) === JSON.stringify(drape.fabric))
  const nested = (key: 'fabric' | 'flow') => {
    const put = (r: typeof rig, field: string, v: unknown) =>
      Object.assign(r.drape!, { [key]: { ...r.drape![key], [field]: v } })
    return {
      value: drape[key] ?? {},
      onPreview: (field: string, v: unknown) => sets('', (r, x: unknown) => void put(r, field, x)).onPreview(v),
      onCommit: (field: string, v: unknown, label: string) =>
        edit(
          `set ${label.toLowerCase()}`,
          on((r) => void put(r, field, v)),
        ),
    }
  }
  const flows = (drape.flow?.medium ?? 'none') !== 'none'
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        label="Held on the path by"
        value={drape.hang ?? 'edge'}
        options={['edge', 'corners', 'every', 'points'] as const}
        names={{
          edge: 'its upper edge',
          corners: 'two corners',
          every: 'rings on its upper edge',
          points: 'points that are picked',
        }}
        onChange={(v) =>
          edit(
            'change what holds the cloth',
            on((r) => {
              r.drape!.hang = v
              if (v === 'every') r.drape!.every ??= 4
              if (v === 'points') r.drape!.points ??= [0]
            }),
          )
        }
      />
      {drape.hang === 'every' && (
        <NumberField
          label="A ring every"
          value={drape.every ?? 1}
          quantity="count"
          unit="points"
          min={1}
          {...sets('set the rings', (r, v: number) => void (r.drape!.every = Math.round(v)))}
        />
      )}
      {drape.hang === 'points' && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Button
            variant={picking ? 'contained' : 'outlined'}
            aria-pressed={picking}
            onClick={() =>
              picking ? useBench.setState({ tool: { kind: 'none' } }) : useBench.getState().startPins(rig.id)
            }
          >
            {picking ? 'Done' : 'Pick in the view'}
          </Button>
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            {drape.points?.length ?? 0} {drape.points?.length === 1 ? 'point is' : 'points are'} held
            {picking ? '. Click the cloth: a point is held, or let go.' : '.'}
          </Box>
        </Box>
      )}
      <Choice
        label="Covers"
        value={drape.fit ?? 'own length'}
        options={['own length', 'reach'] as const}
        names={{ 'own length': 'its own length', reach: 'from tail to head' }}
        onChange={(v) =>
          edit(
            'change how much of the path it covers',
            on((r) => {
              r.drape!.fit = v
              if (v === 'reach' && r.drape!.head === undefined) {
                r.drape!.tail = 0
                r.drape!.head = info?.body?.length ?? 1
              }
            }),
          )
        }
      />
      {drape.fit === 'reach' && tail && head && (
        <Pair>
          <SlotField slot={tail} label="Tail at" />
          <SlotField slot={head} label="Head at" />
        </Pair>
      )}
      <Pick
        label="Fabric"
        value={named?.name ?? ''}
        options={[...(named ? [] : ['']), ...fabrics.map((f) => f.name)]}
        names={{ '': 'by its values' }}
        onChange={(name) => {
          const f = fabrics.find((x) => x.name === name)
          if (f) {
            edit(
              `make it of ${name.toLowerCase()}`,
              on((r) => void (r.drape!.fabric = { ...f.fabric })),
            )
          }
        }}
      />
      <FormFields fields={fabricFields} {...nested('fabric')} />
      <FormFields fields={flowFields.filter((f) => f.key === 'medium' || flows)} {...nested('flow')} />
      {cloth && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Figure label="Points" value={String(cloth.points)} word={`${cloth.held} held`} />
          <Figure
            label="Apart"
            value={s(cloth.spacing)}
            word={cloth.fine && cloth.spacing > cloth.fine ? `folds round at ${s(cloth.fine)}` : undefined}
          />
          <Figure label="Weighs" value={`${cloth.mass.toPrecision(3)} kg`} />
          <Figure label="Fullness" value={`${cloth.fullness.toFixed(2)} ×`} />
          <Figure label="Steps a frame" value={String(cloth.substeps)} />
        </Box>
      )}
      <Fold title="Copies, contact, beginning, loop">
        <KindFields rig={rig} index={index} only={beginning} />
      </Fold>
      {['stretch', 'through', 'itself', 'loop'].map((id) => (
        <Remedies key={id} id={id} rig={rig.id} />
      ))}
    </Box>
  )
}
