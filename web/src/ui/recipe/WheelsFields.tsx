import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { ChainReadout, Document, Path, PathShape } from '../../core/page.generated'
import { keepLinks } from '../../core/add'
import { showWithUnit } from '../../core/units'
import { freeName } from '../../core/value'
import { useBench } from '../../stores/bench'
import { BeltFields, OrderButton, PitchPick, WheelWays } from './BeltFields'
import { Choice, Figure, NameField, Pair, Vec3Field } from '../fields/fields'
import { AutoField } from '../fields/AutoField'
import { NumberField } from '../fields/NumberField'
import { keepAnchor, removePoint } from '../things'

type Wrap = NonNullable<PathShape['wrap']>
type Wheel = Wrap['wheels'][number]

/** The wheels of a belt: their order, sizes and senses, and what is known of a chain. */
export function WheelsFields({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const point = useBench((b) => b.point)
  const info = useBench((b) => b.answer?.readout.paths[index])
  const wrap = path.shape.wrap!
  const of = (d: Document) => d.paths[index]!.shape.wrap!
  const chosen = point !== null ? wrap.wheels[point] : undefined
  const put = (change: (w: Wheel) => void) => (d: Document) => change(of(d).wheels[point!]!)
  const sets = (label: string, to: (w: Wheel, v: number) => void) => ({
    onPreview: (v: number) => preview(put((w) => to(w, v))),
    onCommit: (v: number) =>
      edit(
        label,
        put((w) => to(w, v)),
      ),
  })
  const radius = info?.wheels?.[point!]?.radius ?? 0.2
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
    const to = point! + by
    edit('change the order of wheels', (d) =>
      keepAnchor(of(d), (list) => {
        const [w] = list.splice(point!, 1)
        list.splice(to, 0, w!)
      }),
    )
    useBench.setState({ point: to })
  }
  return (
    <>
      <Box role="group" aria-label="Wheels in the belt's order" sx={{ display: 'grid', gap: '2px' }}>
        {wrap.wheels.map((w, i) => {
          const seen = info?.wheels?.[i]
          const on = point === i
          return (
            <Button
              key={i}
              aria-pressed={on}
              onClick={() => useBench.setState({ point: on ? null : i })}
              sx={{
                display: 'grid',
                gridTemplateColumns: '1fr auto',
                textAlign: 'left',
                minHeight: 24,
                px: 0.75,
                color: on ? roles.kelpText : roles.ink,
                background: on ? roles.tint : 'transparent',
                fontWeight: on ? 600 : 400,
              }}
            >
              <span>
                {i + 1} {w.name}
                {w.teeth ? `, ${w.teeth} teeth` : ''}
              </span>
              <Box
                component="span"
                sx={{ fontSize: 11, fontWeight: 400, color: seen?.touches ? roles.secondary : roles.amberText }}
              >
                {seen
                  ? seen.touches
                    ? `${seen.angleDeg.toFixed(0)}°`
                    : w.free
                      ? 'does not touch'
                      : 'not touched'
                  : ''}
              </Box>
            </Button>
          )
        })}
      </Box>
      {chosen && (
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
          {chosen.teeth && info?.wheels?.[point!] ? (
            <Box sx={{ display: 'grid', gap: '3px' }}>
              <Figure label="Pitch diameter" value={showWithUnit(2 * info.wheels[point!]!.radius, 'length', units)} />
              <Figure label="Pins to its centre" value={showWithUnit(info.wheels[point!]!.radius, 'length', units)} />
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
          <WheelWays wheel={chosen} index={index} at={point!} />
          <Pair>
            <Button variant="outlined" disabled={point === 0} onClick={() => move(-1)}>
              Earlier
            </Button>
            <Button variant="outlined" disabled={point === wrap.wheels.length - 1} onClick={() => move(1)}>
              Later
            </Button>
          </Pair>
        </>
      )}
      <Pair>
        <Button
          variant="outlined"
          onClick={() => {
            edit('add a wheel', (d) =>
              keepAnchor(of(d), (list) => {
                const a = list[(point ?? list.length - 1) % list.length]!
                const b = list[((point ?? list.length - 1) + 1) % list.length]!
                const at = a.at.map((v, i) => (v + b.at[i]!) / 2) as [number, number, number]
                const r = info?.wheels?.[point ?? 0]?.radius ?? 0.2
                list.splice((point ?? list.length - 1) + 1, 0, {
                  name: freeName(list, 'Wheel'),
                  at,
                  radius: Number((r / 2).toPrecision(3)),
                })
              }),
            )
          }}
        >
          Add a wheel
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          disabled={!chosen || wrap.wheels.length < 2}
          onClick={() => removePoint()}
        >
          Remove it
        </Button>
      </Pair>
      {wrap.wheels.length > 2 && !wrap.ends && <OrderButton path={path} index={index} />}
      <BeltFields path={path} index={index} />
      {info?.chain && <Chain chain={info.chain} index={index} units={units} />}
    </>
  )
}

/** What is to be known of a chain round two sprockets, and the centres at which it closes. */
function Chain({
  chain: c,
  index,
  units,
}: {
  chain: ChainReadout
  index: number
  units: NonNullable<Document['units']>
}) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const mm = (v: number) => showWithUnit(v, 'length', units)
  return (
    <Box data-testid="chain" sx={{ display: 'grid', gap: '3px', borderTop: `1px solid ${roles.rule}`, pt: 1 }}>
      <Figure label="Along the pitch circles" value={`${c.exact.toFixed(3)} pitches`} />
      <Figure label="By the handbook" value={`${c.handbook.toFixed(3)} pitches`} />
      <Figure label="Centres" value={mm(c.centres)} word={`ratio ${Number(c.ratio.toFixed(4))}`} />
      <Figure label="Straight between pins" value={mm(c.pitch)} />
      <Figure
        label="Speed varies by"
        value={`${(100 * c.chordal[0]).toFixed(2)} %`}
        word={`and ${(100 * c.chordal[1]).toFixed(2)} %`}
      />
      <Box sx={{ fontSize: 11, color: roles.secondary, mt: 0.5 }}>Closes, a tenth of a pitch hanging, at</Box>
      {c.links.map((l) => (
        <Button
          key={l.links}
          sx={{ justifyContent: 'space-between', minHeight: 24, px: 0.75, fontWeight: l.links % 2 ? 400 : 600 }}
          title={`Drawn straight it closes at ${mm(l.centres)}.${l.links % 2 ? ' An odd number needs an offset link.' : ''}`}
          onClick={() =>
            edit(`move the wheels to ${l.links} links`, (d) => {
              const wheels = d.paths[index]!.shape.wrap!.wheels.filter((w) => !w.free)
              const [a, b] = [wheels[0]!, wheels[1]!]
              b.at = b.at.map((v, i) => a.at[i]! + ((v - a.at[i]!) * l.hangs) / c.centres) as [number, number, number]
              keepLinks(d, d.paths[index]!, l.links, c.pitch)
            })
          }
        >
          <span>
            {l.links} links{l.links % 2 ? ' (offset link)' : ''}
          </span>
          <span>{mm(l.hangs)}</span>
        </Button>
      ))}
    </Box>
  )
}
