import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useState } from 'react'
import type { Document, Path } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { Vec3Field } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { NumberField } from '../fields/NumberField'
import { makeLarger } from '../../stores/takeOver'
import { makeOtherSide } from '../things'
import { threeFields } from '../../look/theme'

/** Where a whole path stands, how large it is, and its mirror image. */
export function PlaceFields({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const rest = path.rest ?? {}
  const put = (change: Partial<NonNullable<typeof path.rest>>) => (d: Document) =>
    void (d.paths[index]!.rest = { ...d.paths[index]!.rest, ...change })
  const { name } = path
  return (
    <Fold title="Place, size, other side" open={!!path.rest}>
      <Vec3Field
        label="Moved by"
        value={rest.at ?? [0, 0, 0]}
        onPreview={(at) => preview(put({ at }))}
        onCommit={(at) => edit(`move ${name}`, put({ at }))}
      />
      <Box role="group" aria-label="Turned by" sx={threeFields}>
        {(['heading', 'pitch', 'bank'] as const).map((k) => (
          <NumberField
            key={k}
            label={k[0]!.toUpperCase() + k.slice(1)}
            value={rest[k] ?? 0}
            quantity="angle"
            onPreview={(v) => preview(put({ [k]: v }))}
            onCommit={(v) => edit(`turn ${name}`, put({ [k]: v }))}
          />
        ))}
      </Box>
      <Resize path={path} />
      <OtherSide path={path} />
    </Fold>
  )
}

const line = { display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, alignItems: 'end' } as const

function Resize({ path }: { path: Path }) {
  const [times, setTimes] = useState(2)
  const ridden = useBench((b) => b.doc?.rigs.some((r) => r.path === path.id) ?? false)
  return (
    <Box sx={{ ...line, alignItems: 'start' }}>
      <NumberField label="Size, times" value={times} quantity="plain" min={1e-6} max={1e6} onCommit={setTimes} />
      <Box sx={{ display: 'grid', gap: 1, mt: '18px' }}>
        <Button
          variant="outlined"
          title="All its lengths: shape, wheels, teeth, steps, and paths joined to it. Pieces on it keep their size."
          onClick={() => void makeLarger(path, times, false)}
        >
          Resize the path
        </Button>
        {ridden && (
          <Button
            variant="outlined"
            title="The path with the pieces on it, what is between them, and their travel. What rolls with a carrier goes as far as before."
            onClick={() => void makeLarger(path, times, true)}
          >
            Resize with its rigs
          </Button>
        )}
      </Box>
    </Box>
  )
}

/** Makes the mirror image of a path with what rides on it. */
function OtherSide({ path }: { path: Path }) {
  // A belt in the middle is put aside; how far, one has to say.
  const x = Math.abs((path.shape.wrap?.wheels[0]?.at[0] ?? 0) + (path.rest?.at?.[0] ?? 0))
  const [apart, setApart] = useState<number | null>(null)
  return (
    <Box sx={line}>
      <NumberField
        label="Apart"
        value={apart ?? (x > 1e-9 ? 2 * x : 1)}
        quantity="length"
        min={0}
        onCommit={setApart}
      />
      <Button
        variant="outlined"

        title="Its mirror image to the left or right of the middle, with its rigs, handles and links to the carrier. A path in the very middle moves aside."
        onClick={() => void makeOtherSide(path.id, apart ?? (x > 1e-9 && path.shape.wrap ? 2 * x : 1))}
      >
        Make the other side
      </Button>
    </Box>
  )
}
