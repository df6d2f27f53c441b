import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { acrossOf, lensOf, pictureSize, upOf } from '../../core/camera'
import { slotsOf } from '../../core/slots'
import type { Camera, Document } from '../../core/page.generated'
import { useBench } from '../../stores/bench'
import { Pair, Pick } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { SlotField } from '../fields/SlotField'

const sizes: [string, number, number][] = [
  ['1280 × 720', 1280, 720],
  ['1920 × 1080', 1920, 1080],
  ['3840 × 2160', 3840, 2160],
  ['1080 × 1080, square', 1080, 1080],
  ['1080 × 1920, upright', 1080, 1920],
]

/** A camera's lens, the size of its picture, and the angles that both take in. */
export function CameraPicture({ camera, index }: { camera: Camera; index: number }) {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const angle = useBench((b) => b.shot.cameras[index]?.[7])
  const lens = slotsOf(doc, 'camera', camera.id).find((s) => s.key === 'lens')!
  const of = (d: Document) => d.cameras![index]!
  const [w, h] = pictureSize(camera)
  const size = sizes.find(([, a, b]) => a === w && b === h)
  const side = (field: 'width' | 'height', label: string, value: number) => (
    <NumberField
      label={label}
      value={value}
      quantity="count"
      unit="px"
      at={`cameras/*/${field}`}
      onCommit={(v) => edit(`size the picture of ${camera.name}`, (d) => void (of(d)[field] = Math.round(v)))}
    />
  )
  const takesIn = (label: string, radians: number, lens: (radians: number) => number) => (
    <NumberField
      label={label}
      value={(radians * 180) / Math.PI}
      quantity="angle"
      min={1}
      max={150}
      disabled={typeof (camera.lens ?? 0) !== 'number'}
      onCommit={(v) => edit(`another lens for ${camera.name}`, (d) => void (of(d).lens = lens((v * Math.PI) / 180)))}
    />
  )
  return (
    <>
      <Pair>
        <SlotField slot={lens} label="Lens, mm" />
        <Pick
          label="Picture"
          value={size ? size[0] : 'own'}
          options={[...sizes.map(([n]) => n), 'own']}
          names={{ own: 'another size' }}
          onChange={(v) => {
            const to = sizes.find(([n]) => n === v)
            edit(`size the picture of ${camera.name}`, (d) => {
              of(d).width = to ? to[1] : 1000
              of(d).height = to ? to[2] : 1000
            })
          }}
        />
      </Pair>
      {!size && (
        <Pair>
          {side('width', 'Width', w)}
          {side('height', 'Height', h)}
        </Pair>
      )}
      {angle !== undefined && (
        <Pair>
          {takesIn('Takes in, across', acrossOf(angle, w / h), (a) => lensOf(upOf(a, w / h), [w, h]))}
          {takesIn('Takes in, up', angle, (a) => lensOf(a, [w, h]))}
        </Pair>
      )}
      <Box sx={{ color: roles.secondary, fontSize: 11 }}>The lens is that of a picture 36 mm wide.</Box>
    </>
  )
}
