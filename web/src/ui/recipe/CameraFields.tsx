import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { lookFrom } from '../../core/camera'
import { slotsOf } from '../../core/slots'
import type { Camera } from '../../core/page.generated'
import { presentEye } from '../../scene/presentEye'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { Pair } from '../fields/fields'
import { CameraAim, CameraMoves } from './CameraMoves'
import { CameraPicture } from './CameraPicture'
import { keyAll } from './CarrierFields'

/** A camera: where it stands or what moves it, what it looks at, its lens and its picture. */
export function CameraFields({ camera, index }: { camera: Camera; index: number }) {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const through = useView((v) => v.through === camera.id)
  const slots = slotsOf(doc, 'camera', camera.id)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Pair>
        <Button
          variant={through ? 'outlined' : 'contained'}
          aria-pressed={through}
          onClick={() => useView.setState({ through: through ? null : camera.id })}
        >
          {through ? 'Look from outside' : 'Look through it'}
        </Button>
        <Button
          variant="outlined"
          disabled={through || !!(camera.ride && camera.aim)}
          title={
            camera.ride && camera.aim
              ? 'It goes along a path and looks at something: move it by its numbers.'
              : 'It looks as the view does now; what is keyed gets keys here.'
          }
          onClick={() => {
            const eye = presentEye()
            const { shot, answer } = useBench.getState()
            if (!eye) return
            edit(`let ${camera.name} look from here`, (d) =>
              lookFrom(d, index, eye, {
                frame: useClock.getState().frame,
                values: shot.values,
                moving: answer?.readout.values,
                pose: shot.cameras[index],
                carrier: shot.carriers[doc.carriers?.findIndex((c) => c.id === camera.carrier) ?? -1],
              }),
            )
          }}
        >
          From here
        </Button>
      </Pair>
      <CameraMoves camera={camera} index={index} />
      <CameraAim camera={camera} index={index} />
      <Button variant="outlined" onClick={() => keyAll(slots, `key the place of ${camera.name}`)}>
        Key its place and lens at this frame
      </Button>
      <CameraPicture camera={camera} index={index} />
      <Button variant="outlined" onClick={() => useBench.setState({ panel: 'film' })}>
        Film and stills
      </Button>
    </Box>
  )
}
