import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import type { Document, Part } from '../api/page.generated'
import { showWithUnit } from '../core/units'
import { useBench } from '../stores/bench'
import { Figure, Pair, Pick, Vec3Field } from './fields'
import { NumberField } from './NumberField'

const axes = ['+x', '-x', '+y', '-y', '+z', '-z'] as const

/** The fields of a part: its sizes, its own axes and its pivot. */
export function PartFields({ part, index }: { part: Part; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.parts[index])
  const at = (d: Document) => d.parts[index]!
  const generated = part.shape.shoe ?? part.shape.box ?? part.shape.float ?? part.shape.post ?? part.shape.file
  const sizes = generated as unknown as Record<string, number>
  const labels: Record<string, string> = part.shape.shoe
    ? { length: 'Length, pin to pin', width: 'Width', height: 'Plate height', grouser: 'Grouser', horn: 'Guide horn' }
    : part.shape.box
      ? { length: 'Length', side: 'Side', height: 'Height' }
      : part.shape.post
        ? { radius: 'Radius', topRadius: 'Top radius, 0: same', height: 'Height' }
        : part.shape.file
          ? { scale: 'One unit of its file is' }
          : { length: 'Length', radius: 'Radius' }
  const put = (d: Document, field: string, v: number) => {
    const s = at(d).shape
    ;((s.shoe ?? s.box ?? s.float ?? s.post ?? s.file) as unknown as Record<string, number>)[field] = v
  }
  const mayBeNone = ['grouser', 'horn', 'topRadius']
  const forward = part.forward ?? '+z'
  const up = part.up ?? '+y'
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pair>
        {Object.entries(labels).map(([field, label]) => (
          <NumberField
            key={field}
            label={label}
            value={sizes[field] ?? 0}
            quantity={field === 'scale' ? 'distance' : 'length'}
            min={mayBeNone.includes(field) ? 0 : field === 'scale' ? 1e-6 : 0.001}
            onPreview={(v) => preview((d) => put(d, field, v))}
            onCommit={(v) => edit(`set ${label.toLowerCase()} of ${part.name}`, (d) => put(d, field, v))}
          />
        ))}
      </Pair>
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
      {info && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1 }}>
          <Figure
            label="Length along forward"
            value={showWithUnit(info.length, 'length', units)}
            word={`${info.triangles} triangles`}
          />
        </Box>
      )}
    </Box>
  )
}
