import Box from '@mui/material/Box'
import type { Document, Path, PathShape } from '../../core/page.generated'
import { remove } from '../../core/remove'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Vec3Field } from '../fields/fields'
import { NumberField } from '../fields/NumberField'

type Wrap = NonNullable<PathShape['wrap']>

/** Opens a belt: it comes from behind its first wheel, and hangs from its last. */
function open(w: Wrap) {
  delete w.keep
  delete w.anchor
  for (const x of w.wheels) {
    delete x.slack
    delete x.takeUp
    delete x.ground
    delete x.spring
  }
  const first = w.wheels[0]!
  const size = (i: number) => w.wheels[i]!.radius ?? ((w.wheels[i]!.teeth ?? 0) * (w.wheels[i]!.pitch ?? 0)) / 6
  const from: [number, number, number] = [...first.at]
  from[w.plane === 'ahead' ? 0 : 2] -= 6 * size(0)
  // Half way round each wheel, and from wheel to wheel. What is longer than needed hangs.
  let way = 8 * size(0)
  w.wheels.forEach((x, i) => {
    const before = i ? w.wheels[i - 1]!.at : from
    way += Math.hypot(...x.at.map((v, k) => v - before[k]!)) + Math.PI * size(i)
  })
  delete w.wheels.at(-1)!.back
  w.ends = { from, length: Number((1.1 * way).toPrecision(3)) }
}

/** Whether a belt is closed, and where it begins and how long it is when it is not. */
export function EndsFields({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.paths[index])
  const wrap = path.shape.wrap!
  const of = (d: Document) => d.paths[index]!.shape.wrap!
  const ends = wrap.ends
  const leaves = info?.wheels?.filter((w) => w.touches).at(-1)?.to
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {wrap.plane !== 'above' && (
        <Choice
          label="The belt"
          value={ends ? 'open' : 'closed'}
          options={['closed', 'open'] as const}
          names={{ closed: 'goes round', open: 'hangs from its last wheel' }}
          onChange={(v) =>
            edit(v === 'open' ? 'open the belt' : 'close the belt', (d) => {
              if (v === 'open') open(of(d))
              else {
                const drum = of(d).ends?.drum
                if (drum) remove(d, 'rig', drum)
                delete of(d).ends
              }
            })
          }
        />
      )}
      {ends && (
        <>
          <Vec3Field
            label={ends.drum ? 'Hub of its drum' : 'Made fast at'}
            value={ends.from}
            onPreview={(v) => preview((d) => void (of(d).ends!.from = v))}
            onCommit={(v) => edit('move the start of the belt', (d) => void (of(d).ends!.from = v))}
          />
          <NumberField
            label={ends.drum ? 'Off its drum at first' : 'Length of the belt'}
            at="paths/*/shape/wrap/ends/length"
            value={ends.length}
            quantity="distance"
            onPreview={(v) => preview((d) => void (of(d).ends!.length = v))}
            onCommit={(v) => edit('set the length of the belt', (d) => void (of(d).ends!.length = v))}
          />
          {info && leaves !== undefined && (
            <Figure label="Hangs at first" value={showWithUnit(info.length - leaves, 'distance', units)} />
          )}
        </>
      )}
    </Box>
  )
}
