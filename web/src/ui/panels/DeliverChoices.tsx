import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import { useTheme } from '@mui/material/styles'
import type { Format } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import type { Wish } from '../../stores/deliver'
import { Choice } from '../fields/fields'
import { NumberField } from '../fields/NumberField'

/** What may be chosen of a format: each format shows what it holds. */
export function DeliverChoices({
  wish,
  format,
  first,
  change,
}: {
  wish: Wish
  format: Format
  first: number
  change: (by: Partial<Wish>) => void
}) {
  const { roles } = useTheme()
  const figures = useBench((b) => b.answer?.readout.rigs.some((r) => r.jointed)) ?? false
  const carriers = useBench((b) => (b.doc?.carriers?.length ?? 0) > 0)
  const bends = useBench((b) => b.answer?.readout.rigs.some((r) => r.body)) ?? false
  const images = useBench((b) => b.doc?.materials?.some((m) => m.images)) ?? false
  const fallsAt = useBench((b) => b.answer?.readout.rigs.find((r) => r.fall)?.fall?.begins)
  return (
    <>
      {format.lines && (
        <Tick on={!!wish.paths} onChange={(paths) => change({ paths })} label="The paths too, as lines" />
      )}
      {format.single && (
        <Tick
          on={!!wish.single}
          onChange={(single) => change({ single })}
          hint="For those who go on with a solver of rigid bodies"
          label="Single pieces, each a mesh of its own"
        />
      )}
      {format.single && wish.single && (
        <Choice
          label="Origin of a piece"
          value={wish.centred ? 'centre' : 'pivot'}
          options={['pivot', 'centre'] as const}
          names={{ pivot: 'its pivot', centre: 'its centre' }}
          onChange={(v) => change({ centred: v === 'centre' })}
        />
      )}
      {format.instances && !wish.single && (
        <Tick
          on={!!wish.instances}
          onChange={(instances) => change({ instances })}
          hint="Many copies of one mesh as one object, for readers that know instances: in glTF where a rig's pieces stand still, in USD all rigid pieces"
          label="Pieces as instances"
        />
      )}
      {format.solver && (
        <Tick
          on={wish.solver}
          onChange={(solver) => change({ solver })}
          hint="Pieces as they stand in the first frame, with mass and colliders; fixtures and ground stand still"
          label="For a solver of rigid bodies"
        />
      )}
      {format.solver && wish.solver && (
        <>
          <NumberField
            label="Density of the pieces"
            value={wish.density ?? 1000}
            quantity="plain"
            unit="kg/m³"
            min={1}
            max={1000000}
            onCommit={(density) => change({ density })}
          />
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            The pieces stand as at frame {first}
            {fallsAt === undefined || fallsAt === first
              ? '.'
              : `; those that fall are let go at frame ${Number(fallsAt.toFixed(2))}.`}
          </Box>
        </>
      )}
      {format.exact && bends && (
        <Choice
          label="Bodies that bend"
          value={wish.exact ? 'exact' : 'joints'}
          options={['joints', 'exact'] as const}
          names={{ joints: 'joints and weights', exact: 'exact, each frame' }}
          onChange={(v) => change({ exact: v === 'exact' })}
        />
      )}
      {format.nested && carriers && (
        <Choice
          label="What rides on carriers"
          value={wish.flat ? 'flat' : 'below'}
          options={['below', 'flat'] as const}
          names={{ below: 'below them', flat: 'in the world' }}
          onChange={(v) => change({ flat: v === 'flat' })}
        />
      )}
      {format.keys && (
        <Choice
          label="Animations"
          value={wish.perRig ? 'rig' : 'one'}
          options={['one', 'rig'] as const}
          names={{ one: 'one of all', rig: 'one for each rig' }}
          onChange={(v) => change({ perRig: v === 'rig' })}
        />
      )}
      {format.keys && images && (
        <Tick
          on={!!wish.imageSizes}
          onChange={(imageSizes) => change({ imageSizes })}
          hint="Texture coordinates in metres, and beside each image how large it is: for readers of KHR_texture_transform"
          label="Sizes of images beside them"
        />
      )}
      {format.nested && (
        <Choice
          label="Time 0 is"
          value={wish.time || (format.keys ? 'zero' : 'frames')}
          options={['zero', 'range', 'frames'] as const}
          names={{ zero: 'this first frame', range: 'the range’s first', frames: 'frame 0' }}
          hints={{
            zero: 'The first frame that is baked is at 0',
            range: 'The first frame of the scene’s range is at 0, so that parts of it stand where they belong',
            frames: 'A key stands at the number of its frame',
          }}
          onChange={(time) => change({ time })}
        />
      )}
      {format.clips && (
        <NumberField
          label="No clip is larger than"
          value={wish.clipMB ?? 64}
          quantity="plain"
          unit="MB"
          min={0.01}
          max={2000}
          onCommit={(clipMB) => change({ clipMB })}
        />
      )}
      {format.drawn && (
        <Choice
          label="Drawn on the plane"
          value={wish.plane || 'side'}
          options={['side', 'ahead', 'above'] as const}
          hints={{ side: 'Forward and up', ahead: 'Side and up', above: 'Side and forward' }}
          onChange={(plane) => change({ plane })}
        />
      )}
      {format.units && (
        <Tick on={!!wish.units} onChange={(units) => change({ units })} label="Units behind the names of columns" />
      )}
      {figures && format.figures && (
        <Choice
          label="Roots of figures"
          value={wish.inPlace ? 'stay' : 'move'}
          options={['move', 'stay'] as const}
          names={{ move: 'go along', stay: 'stay in place' }}
          onChange={(v) => change({ inPlace: v === 'stay' })}
        />
      )}
      {figures && format.keys && (
        <Choice
          label="Keys of figures"
          value={wish.ownKeys ? 'own' : 'every'}
          options={['every', 'own'] as const}
          names={{ every: 'in every frame', own: 'where it has its own' }}
          onChange={(v) => change({ ownKeys: v === 'own' })}
        />
      )}
      {figures && format.keys && wish.ownKeys && (
        <NumberField
          label="A joint is off between keys by at most"
          value={wish.tolerance ?? 0.001}
          quantity="length"
          min={0}
          onCommit={(tolerance) => change({ tolerance })}
        />
      )}
    </>
  )
}

/** A box to tick, with its label. */
export function Tick(p: { on: boolean; onChange: (on: boolean) => void; label: string; hint?: string }) {
  return (
    <FormControlLabel
      sx={{ display: 'flex', height: 26, ml: -1, mr: 0, '& + &': { mt: -1 } }}
      title={p.hint}
      control={
        <Checkbox size="small" checked={p.on} onChange={(e) => p.onChange(e.target.checked)} sx={{ py: 0.25 }} />
      }
      label={p.label}
    />
  )
}
