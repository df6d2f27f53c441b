import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import type { Document, Path, PathShape } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { PitchPick, WheelWays } from './BeltFields'
import { Choice, Figure, NameField, Pair, Vec3Field } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { keepAnchor } from '../things'

type Wheel = NonNullable<PathShape['wrap']>['wheels'][number]

/** One wheel of a belt: its name, teeth or radius, centre, side, ways and place in the order. */
export function OneWheel({ path, index, point }: { path: Path; index: number; point: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const seen = useBench((b) => b.answer?.readout.paths[index]?.wheels?.[point])
  const wrap = path.shape.wrap!
  const of = (d: Document) => d.paths[index]!.shape.wrap!
  const chosen = wrap.wheels[point]!
  const put = (change: (w: Wheel) => void) => (d: Document) => change(of(d).wheels[point]!)
  const sets = (label: string, to: (w: Wheel, v: number) => void) => ({
    onPreview: (v: number) => preview(put((w) => to(w, v))),
    onCommit: (v: number) =>
      edit(
        label,
        put((w) => to(w, v)),
      ),
  })
  const radius = seen?.radius ?? 0.2
  const pitch = wrap.keep?.pitch ?? wrap.wheels.find((w) => w.pitch)?.pitch
  const setTeeth = (teeth: number) =>
    edit(
      'set the teeth',
      put((w) => {
        w.teeth = Math.round(teeth) || undefined
        if (w.teeth) {
          w.pitch ??= pitch ?? Number((2 * radius * Math.sin(Math.PI / w.teeth)).toPrecision(4))
          delete w.radius
        } else {
          w.radius = Number(radius.toPrecision(6))
          delete w.pitch
        }
      }),
    )
  const move = (by: number) => {
    const to = point + by
    edit('change the order of wheels', (d) =>
      keepAnchor(of(d), (list) => {
        const [w] = list.splice(point, 1)
        list.splice(to, 0, w!)
      }),
    )
    useBench.setState({ point: to })
  }
  return (
    <>
      <NameField
        size={13}
        value={chosen.name}
        label="Name of the wheel"
        onCommit={(name) =>
          edit(
            'rename a wheel',
            put((w) => void (w.name = name)),
          )
        }
      />
      <Pair>
        <AutoField
          label="Teeth"
          word="none: a plain wheel"
          start={Math.max(Math.round((2 * Math.PI * radius) / (pitch ?? radius / 3)), 5)}
          value={chosen.teeth || undefined}
          quantity="count"
          at="paths/*/shape/wrap/wheels/*/teeth"
          min={1}
          onSet={(v) => setTeeth(v ?? 0)}
          onCommit={setTeeth}
        />
        {chosen.teeth ? (
          <NumberField
            label="Pitch of its teeth"
            value={chosen.pitch ?? 0}
            quantity="length"
            min={1e-6}
            {...sets('set the pitch', (w, v) => void (w.pitch = v))}
          />
        ) : (
          <NumberField
            label="Radius"
            value={chosen.radius ?? 0}
            quantity="length"
            min={1e-6}
            {...sets('set the radius', (w, v) => void (w.radius = v))}
          />
        )}
      </Pair>
      <Vec3Field
        label="Centre"
        value={chosen.at}
        onPreview={(v) => preview(put((w) => void (w.at = v)))}
        onCommit={(v) =>
          edit(
            `move ${chosen.name}`,
            put((w) => void (w.at = v)),
          )
        }
      />
      <Choice
        label="Belt runs"
        value={chosen.free ? 'free' : chosen.back ? 'back' : 'inside'}
        options={['inside', 'back', 'free'] as const}
        names={{ back: 'outside', free: 'does not touch' }}
        hints={{
          inside: 'The inner side of the belt lies on this wheel.',
          back: 'The outer side of the belt lies on this wheel, which turns the other way.',
          free: 'The belt passes by; the wheel stands where it is.',
        }}
        onChange={(v) =>
          edit(
            `lay the belt ${v}`,
            put((w) => {
              w.back = v === 'back' || undefined
              w.free = v === 'free' || undefined
            }),
          )
        }
      />
      {chosen.teeth && seen ? (
        <Box sx={{ display: 'grid', gap: '3px' }}>
          <Figure label="Pitch diameter" value={showWithUnit(2 * seen.radius, 'length', units)} />
          <Figure label="Pins to its centre" value={showWithUnit(seen.radius, 'length', units)} />
        </Box>
      ) : null}
      {chosen.teeth ? (
        <PitchPick
          value={chosen.pitch ?? 0}
          onChange={(v) =>
            edit(
              'set the pitch',
              put((w) => void (w.pitch = v)),
            )
          }
        />
      ) : null}
      <WheelWays wheel={chosen} index={index} at={point} />
      <Pair>
        <Button variant="outlined" disabled={point === 0} onClick={() => move(-1)}>
          Earlier
        </Button>
        <Button variant="outlined" disabled={point === wrap.wheels.length - 1} onClick={() => move(1)}>
          Later
        </Button>
      </Pair>
    </>
  )
}
