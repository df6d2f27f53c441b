import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Path } from '../../core/page.generated'
import { freeName } from '../../core/value'
import { useBench } from '../../stores/bench'
import { BeltFields, OrderButton } from './BeltFields'
import { ChainFigures } from './ChainFigures'
import { OneWheel } from './OneWheel'
import { Pair } from '../fields/fields'
import { keepAnchor, removePoint } from '../things'

/** The wheels of a belt: their order, sizes and senses, and what is known of a chain. */
export function WheelsFields({ path, index }: { path: Path; index: number }) {
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const point = useBench((b) => b.point)
  const chain = useBench((b) => b.answer?.readout.paths[index]?.chain)
  const wrap = path.shape.wrap!
  return (
    <>
      <WheelList path={path} index={index} />
      {point !== null && wrap.wheels[point] && <OneWheel path={path} index={index} point={point} />}
      <AddOrRemove path={path} index={index} />
      {wrap.wheels.length > 2 && !wrap.ends && <OrderButton path={path} index={index} />}
      <BeltFields path={path} index={index} />
      {chain && <ChainFigures chain={chain} index={index} units={units} />}
    </>
  )
}

/** The wheels in the order in which the belt meets them, and how far it goes round each. */
function WheelList({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const point = useBench((b) => b.point)
  const info = useBench((b) => b.answer?.readout.paths[index])
  return (
    <Box role="group" aria-label="Wheels in the belt's order" sx={{ display: 'grid', gap: '2px' }}>
      {path.shape.wrap!.wheels.map((w, i) => {
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
              {seen ? (seen.touches ? `${seen.angleDeg.toFixed(0)}°` : w.free ? 'does not touch' : 'not touched') : ''}
            </Box>
          </Button>
        )
      })}
    </Box>
  )
}

/** A new wheel stands half way from the chosen one to the next. */
function AddOrRemove({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const point = useBench((b) => b.point)
  const info = useBench((b) => b.answer?.readout.paths[index])
  const wheels = path.shape.wrap!.wheels
  return (
    <Pair>
      <Button
        variant="outlined"
        onClick={() => {
          edit('add a wheel', (d) =>
            keepAnchor(d.paths[index]!.shape.wrap!, (list) => {
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
        disabled={point === null || !wheels[point] || wheels.length < 2}
        onClick={() => removePoint()}
      >
        Remove it
      </Button>
    </Pair>
  )
}
