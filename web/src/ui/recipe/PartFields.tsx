import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Part, PartShape } from '../../core/page.generated'
import { partForms } from '../../core/forms'
import { seatOf } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick, Vec3Field } from '../fields/fields'
import { FormFields } from '../fields/FormFields'
import { NumberField } from '../fields/NumberField'

const axes = ['+x', '-x', '+y', '-y', '+z', '-z'] as const

/** The fields of a part: its sizes, its own axes and its pivot. */
export function PartFields({ part, index }: { part: Part; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.parts[index])
  const at = (d: Document) => d.parts[index]!
  const kind = (Object.keys(part.shape) as (keyof PartShape)[]).find((k) => part.shape[k])!
  const put = (d: Document, field: string, v: unknown) => {
    ;(at(d).shape[kind] as unknown as Record<string, unknown>)[field] = v
  }
  const bends = useBench((b) => b.doc?.rigs.some((r) => r.part === part.id && seatOf(r) === 'bent')) ?? false
  const longest = useBench(
    (b) =>
      b.answer?.readout.rigs.find(
        (_, i) => b.answer?.doc.rigs[i]?.part === part.id && b.answer.readout.rigs[i]?.body?.longest,
      )?.body?.longest,
  ) as Part['forward']
  const forward = part.forward ?? '+z'
  const up = part.up ?? '+y'
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <FormFields
        fields={partForms[kind].fields}
        value={part.shape[kind]!}
        onPreview={(field, v) => preview((d) => put(d, field, v))}
        onCommit={(field, v, label) => edit(`set ${label.toLowerCase()} of ${part.name}`, (d) => put(d, field, v))}
      />
      <Pair>
        <Pick
          label="Its forward"
          value={forward}
          options={axes}
          onChange={(v) =>
            edit(`turn ${part.name} to ${v} forward`, (d) => {
              at(d).forward = v
              // Up must not lie along forward: the first free axis takes its place.
              if (up[1] === v[1]) at(d).up = v[1] === 'y' ? '+z' : '+y'
            })
          }
        />
        <Pick
          label="Its up"
          value={up}
          options={axes.filter((a) => a[1] !== forward[1])}
          onChange={(v) => edit(`turn ${part.name} to ${v} up`, (d) => void (at(d).up = v))}
        />
      </Pair>
      <Vec3Field
        label="Pivot, in the part's own axes"
        value={part.pivot ?? [0, 0, 0]}
        onPreview={(v) => preview((d) => void (at(d).pivot = v))}
        onCommit={(v) => edit(`move the pivot of ${part.name}`, (d) => void (at(d).pivot = v))}
      />
      {bends && !part.shape.coil && !part.shape.strands && (
        <NumberField
          label="Segments along it, 0: as it is"
          value={part.segments ?? 0}
          quantity="count"
          min={0}
          max={5000}
          onPreview={(v) => preview((d) => void (at(d).segments = Math.round(v) || undefined))}
          onCommit={(v) => edit(`cut ${part.name}`, (d) => void (at(d).segments = Math.round(v) || undefined))}
        />
      )}
      {longest && (
        <Button
          variant="outlined"
          onClick={() =>
            edit(`turn ${part.name} to ${longest} forward`, (d) => {
              at(d).forward = longest
              if (up[1] === longest[1]) at(d).up = longest[1] === 'y' ? '+z' : '+y'
            })
          }
        >
          It is longest along {longest[1]}: make that forward
        </Button>
      )}
      {info && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1 }}>
          <Figure
            label="Length along forward"
            value={showWithUnit(info.length, 'length', units)}
            word={`${info.triangles} triangles`}
          />
        </Box>
      )}
      <Choice
        label="When exporting"
        value={part.guide ? 'reference only' : 'exported'}
        options={['exported', 'reference only'] as const}
        onChange={(v) =>
          edit(`make ${part.name} ${v}`, (d) => void (at(d).guide = v === 'reference only' || undefined))
        }
      />
    </Box>
  )
}
