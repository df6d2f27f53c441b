import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import type { Path } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Figure } from '../fields/fields'
import { AutoField } from '../fields/AutoField'

/** What was measured of a path, and what about it wants a look. */
export function PathReading({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.paths[index])
  if (!info) return null
  const at = (v: number) => `at ${showWithUnit(v, 'distance', units)}`
  const under = info.lowest < -1e-6
  const warnings = [
    ...(info.notes ?? []),
    ...(info.crossings ?? []).map(
      (c) =>
        `Crosses itself: ${showWithUnit(c.a, 'distance', units)} meets ${showWithUnit(c.b, 'distance', units)} from the start.`,
    ),
    ...(info.close ?? []).map((i) => `Points ${i + 1} and ${i + 2} nearly lie on one another.`),
    ...(under ? [`Goes ${showWithUnit(-info.lowest, 'length', units)} under the ground ${at(info.lowestAt)}.`] : []),
    ...(!info.closed && info.gap < 1e-3 * info.length ? ['Its ends meet, but the path is open: close it.'] : []),
  ]
  return (
    <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 0.5 }} data-testid="path-reading">
      <Figure
        label="Length"
        value={showWithUnit(info.length, 'distance', units)}
        word={info.closed ? 'closed' : 'open'}
      />
      <Figure
        label="Tightest radius"
        value={info.tightestRadius > 0 ? showWithUnit(info.tightestRadius, 'length', units) : 'straight'}
        word={
          info.corners > 0
            ? `${info.corners} ${info.corners === 1 ? 'corner' : 'corners'}`
            : info.tightestRadius > 0
              ? at(info.tightestDistance)
              : undefined
        }
      />
      <Figure
        label="Off its plane"
        value={showWithUnit(info.offPlane, 'length', units)}
        word={info.offPlane < 1e-6 * info.length ? 'flat' : undefined}
      />
      <Figure
        label="Lowest"
        value={showWithUnit(info.lowest, 'length', units)}
        word={under ? 'under' : 'above ground'}
        tone={under ? 'near' : undefined}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, alignItems: 'end', mt: 0.5 }}>
        <AutoField
          label="Display tolerance"
          at="paths/*/chordError"
          word={`automatic, ${Number((info.chordError * 1000).toPrecision(2))} mm`}
          start={info.chordError}
          value={path.chordError || undefined}
          onSet={(v) => edit(`draw ${path.name} within a tolerance`, (d) => void (d.paths[index]!.chordError = v))}
          quantity="length"
          onPreview={(v) => preview((d) => void (d.paths[index]!.chordError = v))}
          onCommit={(v) =>
            edit(`draw ${path.name} within a tolerance`, (d) => void (d.paths[index]!.chordError = v || undefined))
          }
        />
        <Box sx={{ fontSize: 11, color: roles.secondary, lineHeight: '13px' }}>
          drawn with {info.drawnPoints} points
        </Box>
      </Box>
      {warnings.map((w) => (
        <Box key={w} role="note" sx={{ fontSize: 11, color: roles.amberText }}>
          {w}
        </Box>
      ))}
    </Box>
  )
}
