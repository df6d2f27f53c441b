import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { ChainReadout, Document } from '../../core/page.generated'
import { keepLinks } from '../../core/add'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Figure } from '../fields/fields'

/** What is to be known of a chain round two sprockets, and the centres at which it closes. */
export function ChainFigures({
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
