import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import type { Document, Part, PartShape } from '../../core/page.generated'
import { partForms, type Vec3 } from '../../core/forms'
import { seatOf } from '../../core/rigs'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair, Pick, Vec3Field } from '../fields/fields'
import { useMaterials } from '../../stores/materials'
import { MaterialPick } from './MaterialPick'
import { FormFields } from '../fields/FormFields'
import { AutoField } from '../fields/AutoField'

const axes = ['+x', '-x', '+y', '-y', '+z', '-z'] as const

/** The fields of a part: its sizes, its own axes and its pivot. */
export function PartFields({ part, index }: { part: Part; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.parts[index])
  // Where each surface has a material of its own, that of the part is not shown.
  const first = useMaterials()?.[info?.materials[0] ?? 0]
  const looks = part.surfaces?.length ? undefined : first
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
  /** The pivot in the middle of the part's bounds, and the same at its foot. */
  const middle = () => info!.min.map((x, i) => Number(((x + info!.max[i]!) / 2).toPrecision(7)) || 0) as Vec3
  const foot = () => {
    const pivot = middle()
    const k = 'xyz'.indexOf(up[1]!)
    pivot[k] = Number((up.startsWith('+') ? info!.min : info!.max)[k]!.toPrecision(7)) || 0
    return pivot
  }
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <FormFields
        fields={partForms[kind].fields}
        value={part.shape[kind]!}
        onPreview={(field, v) => preview((d) => put(d, field, v))}
        onCommit={(field, v, label) => edit(`set ${label.toLowerCase()} of ${part.name}`, (d) => put(d, field, v))}
      />
      <MaterialPick
        label="Material"
        value={part.material}
        otherwise={looks ? `Goes with its shape: ${looks.name.toLowerCase()}` : 'Goes with its shape'}
        shown={looks}
        onChange={`make ${part.name} of another material`}
        set={(d, id) => void (at(d).material = id)}
      />
      {(info?.groups?.length ?? 0) > 1 &&
        info!.groups!.map((g) => (
          <MaterialPick
            key={g.name}
            label={`Its surface ${g.name}`}
            value={part.surfaces?.find((s) => s.name === g.name)?.material}
            otherwise="As the part"
            onChange={`make ${g.name} of ${part.name} of another material`}
            set={(d, id) => {
              const p = at(d)
              p.surfaces = (p.surfaces ?? []).filter((s) => s.name !== g.name)
              if (id) p.surfaces.push({ name: g.name, material: id })
              if (!p.surfaces.length) delete p.surfaces
            }}
          />
        ))}
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
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          {(
            [
              ['Stand it on the path', 'Its pivot at its foot: it stands on the path, and on the ground.', foot],
              ['Centre it', 'Its pivot in its middle.', middle],
            ] as const
          ).map(([name, title, pivot]) => (
            <Button
              key={name}
              variant="outlined"
              color="inherit"
              title={title}
              onClick={() => edit(`${name.toLowerCase()}: ${part.name}`, (d) => void (at(d).pivot = pivot()))}
            >
              {name}
            </Button>
          ))}
        </Box>
      )}
      {bends && !part.shape.coil && !part.shape.strands && (
        <AutoField
          label="Segments along it"
          at="parts/*/segments"
          word="as it is"
          start={24}
          value={part.segments || undefined}
          quantity="count"
          min={1}
          onSet={(v) => edit(`cut ${part.name}`, (d) => void (at(d).segments = v && Math.round(v)))}
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
