import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { useRef, useState } from 'react'
import { imageAddress, RequestError, sendImage } from '../../api/client'
import { palette } from '../../core/forms'
import type { Document, Material } from '../../core/page.generated'
import { kindOf } from '../../core/rigs'
import { useBench } from '../../stores/bench'
import { AutoField } from '../fields/AutoField'
import { ColourField } from '../fields/ColourField'
import { Label, Pair, Pick } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { NumberField } from '../fields/NumberField'

const images = [
  ['colour', 'Colour', 'Multiplied by the colour above.'],
  ['normal', 'Normals', 'Tilts the surface, so that it looks uneven.'],
  ['rough', 'Roughness and metalness', 'Green is multiplied by the roughness, blue by the metalness.'],
] as const

type Field = (typeof images)[number][0]

/** What a material looks like: colour, roughness, metalness, opacity and images. */
export function MaterialFields({ material, index }: { material: Material; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const users = useBench((b) => usersOf(b.doc, material.id))
  const at = (d: Document) => d.materials![index]!
  const name = material.name
  const share = (label: string, field: 'roughness' | 'metalness' | 'opacity', none = 0) => (
    <NumberField
      label={label}
      value={material[field] || none}
      quantity="plain"
      at={`materials/*/${field}`}
      min={field === 'opacity' ? 0.01 : undefined}
      onPreview={(v) => preview((d) => void (at(d)[field] = v))}
      onCommit={(v) => edit(`set ${label.toLowerCase()} of ${name}`, (d) => void (at(d)[field] = v))}
    />
  )
  const size = (field: 'width' | 'length', label: string, word: string) => (
    <AutoField
      label={label}
      word={word}
      start={material.images?.length || material.images?.width || 1}
      value={material.images?.[field] || undefined}
      quantity="length"
      at={`materials/*/images/${field}`}
      min={1e-4}
      onSet={(v) => edit(`set the size of images of ${name}`, (d) => void (at(d).images![field] = v))}
      onPreview={(v) => preview((d) => void (at(d).images![field] = v))}
      onCommit={(v) => edit(`set the size of images of ${name}`, (d) => void (at(d).images![field] = v))}
    />
  )
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pick
        inline
        label="Begin with"
        value=""
        options={['', ...palette.map((m) => m.id)]}
        names={{ '': 'choose…', ...Object.fromEntries(palette.map((m) => [m.id, m.name])) }}
        onChange={(v) => {
          const { colour, under, roughness, metalness, opacity } = palette.find((m) => m.id === v)!
          edit(`begin ${name} anew`, (d) => void Object.assign(at(d), { colour, under, roughness, metalness, opacity }))
        }}
      />
      <ColourField
        label="Colour"
        value={material.colour}
        onPreview={(v) => preview((d) => void (at(d).colour = v))}
        onCommit={(v) => edit(`colour ${name}`, (d) => void (at(d).colour = v))}
      />
      {material.under ? (
        <ColourField
          label="Colour of the lower side"
          value={material.under}
          onPreview={(v) => preview((d) => void (at(d).under = v))}
          onCommit={(v) => edit(`colour the lower side of ${name}`, (d) => void (at(d).under = v))}
          end={
            <Remove
              label="The same all round"
              onClick={() => edit(`colour ${name} the same all round`, (d) => void delete at(d).under)}
            />
          }
        />
      ) : (
        <Button
          variant="outlined"
          title="Creatures and hulls are often paler below."
          onClick={() => edit(`give ${name} a lower side`, (d) => void (at(d).under = '#C9C2A4'))}
        >
          Another colour below
        </Button>
      )}
      <Pair>
        {share('Roughness', 'roughness')}
        {share('Metalness', 'metalness')}
      </Pair>
      <Pair>{share('Opacity', 'opacity', 1)}</Pair>
      <Fold title={material.images ? 'Images' : 'Images: none'} open={!!material.images}>
        {images.map(([field, label, title]) => (
          <ImageRow key={field} material={material} index={index} field={field} label={label} title={title} />
        ))}
        {material.images && (
          <Pair>
            {size('width', 'One image is wide', material.images.length ? 'as long' : 'as the mesh has it')}
            {size('length', 'One image is long', material.images.width ? 'as wide' : 'as the mesh has it')}
          </Pair>
        )}
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          PNG or JPEG. Long is along the part: on strips, rolls and bodies that is along their path, and an image keeps
          its size there however long they are.
        </Box>
      </Fold>
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>
        {users.length ? `Used by ${users.join(', ')}.` : 'Used by nothing yet: choose it at a part.'}
      </Box>
    </Box>
  )
}

/** The names of what is made of a material, as one text so that it stays the same. */
function usersOf(d: Document | null, id: string): string[] {
  const out = [
    ...(d?.parts ?? [])
      .filter((p) => p.material === id || p.surfaces?.some((s) => s.material === id))
      .map((p) => p.name),
    ...(d?.rigs ?? []).filter((r) => (r[kindOf(r)] as { material?: string }).material === id).map((r) => r.name),
    ...(d?.ground?.material === id ? ['the ground'] : []),
  ]
  const key = out.join('\n')
  if (key !== lastUsers.key) Object.assign(lastUsers, { key, out })
  return lastUsers.out
}
const lastUsers: { key: string; out: string[] } = { key: '', out: [] }

function ImageRow({
  material,
  index,
  field,
  label,
  title,
}: {
  material: Material
  index: number
  field: Field
  label: string
  title: string
}) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const input = useRef<HTMLInputElement>(null)
  const [busy, setBusy] = useState(false)
  const asset = material.images?.[field]
  const put = (d: Document, id: string | undefined) => {
    const m = d.materials![index]!
    const to = (m.images ??= {})
    if (id) to[field] = id
    else delete to[field]
    if (!to.colour && !to.normal && !to.rough) delete m.images
  }
  async function take(file: File) {
    setBusy(true)
    try {
      const read = await sendImage(file)
      edit(`cover ${material.name} with ${file.name}`, (d) => put(d, read.asset))
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      useBench.getState().say(e.message)
    } finally {
      setBusy(false)
    }
  }
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '40px 1fr auto', gap: 1, alignItems: 'center' }} title={title}>
      <Box
        sx={{
          width: 40,
          height: 40,
          borderRadius: '6px',
          border: `1px ${asset ? 'solid' : 'dashed'} ${roles.border}`,
          background: asset ? `center/cover url(${imageAddress(asset)})` : 'none',
        }}
      />
      <Box sx={{ minWidth: 0 }}>
        <Label>{label}</Label>
        <Button variant="outlined" size="small" disabled={busy} onClick={() => input.current?.click()}>
          {asset ? 'Another image' : 'Choose an image'}
        </Button>
      </Box>
      {asset ? (
        <Remove
          label={`Take the image of ${label.toLowerCase()} off`}
          onClick={() => edit(`take an image off ${material.name}`, (d) => put(d, undefined))}
        />
      ) : (
        <span />
      )}
      <input
        ref={input}
        type="file"
        hidden
        accept=".png,.jpg,.jpeg"
        data-testid={`image-${field}`}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void take(file)
        }}
      />
    </Box>
  )
}

export function Remove({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton aria-label={label} title={label} onClick={onClick} sx={{ width: 24, height: 26 }}>
      <Close sx={{ fontSize: 16 }} />
    </IconButton>
  )
}
