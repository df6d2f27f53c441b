import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import LinearProgress from '@mui/material/LinearProgress'
import { useTheme } from '@mui/material/styles'
import { framesOf } from '../../core/film'
import { counted } from '../../core/units'
import { darkRoles, lightRoles } from '../../look/theme'
import { mostHeight, mostWidth } from '../../scene/film'
import { Studio } from '../../scene/Studio'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { ColourField } from '../fields/ColourField'
import { Choice, Pair, Pick } from '../fields/fields'
import { Fold } from '../fields/Fold'
import { NumberField } from '../fields/NumberField'
import { Column } from '../recipe/RecipeParts'
import { behinds, kindNames, type FilmWish } from './filmWish'
import { PanelHead } from './PanelHead'
import { fetchAs, useFilm } from './useFilm'

type Making = ReturnType<typeof useFilm>

/** Makes films and stills of the scene, through a camera or as the view looks. */
export function FilmPanel() {
  const { roles } = useTheme()
  const name = useBench((b) => b.doc!.name)
  const film = useFilm()
  const { wish, job, making } = film
  const dark = wish.background === 'night'
  return (
    <Column>
      <PanelHead title="Film" note={name} />
      <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>
        <PictureFields film={film} />
        <Stills film={film} />
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25, display: 'grid', gap: 1.25 }}>
          <FilmFields film={film} />
          <Progress film={film} />
          <Result film={film} />
        </Box>
      </Box>
      {making && (
        <Studio
          key={making + job.width + job.height}
          width={job.width}
          height={job.height}
          roles={dark ? darkRoles : lightRoles}
          dark={dark}
          ground={wish.ground ?? true}
          paths={wish.paths ?? false}
          ready={(booth) => void film.shoot(booth)}
        />
      )}
    </Column>
  )
}

/** A number of a film. */
function Count({
  film: { job, set },
  field,
  label,
  min,
  max,
  unit,
}: {
  film: Making
  field: 'width' | 'height' | 'first' | 'last' | 'rounds'
  label: string
  min?: number
  max?: number
  unit?: string
}) {
  return (
    <NumberField
      label={label}
      value={job[field]}
      quantity="count"
      unit={unit}
      min={min}
      max={max}
      // Both sides of a picture are kept when one is set.
      onCommit={(v) => set({ ...(unit ? { width: job.width, height: job.height } : {}), [field]: Math.round(v) })}
    />
  )
}

/** What a picture shows. */
function PictureFields({ film }: { film: Making }) {
  const cameras = useBench((b) => b.doc!.cameras) ?? []
  const { wish, job, set } = film
  const check = (label: string, on: boolean, to: (v: boolean) => FilmWish, title?: string) => (
    <FormControlLabel
      title={title}
      control={<Checkbox size="small" checked={on} onChange={(_, v) => set(to(v))} sx={{ p: 0.5 }} />}
      label={label}
      sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12 } }}
    />
  )
  return (
    <>
      <Pick
        label="Through"
        value={cameras[job.camera]?.id ?? ''}
        options={['', ...cameras.map((c) => c.id)]}
        names={{ '': 'the view as it is', ...Object.fromEntries(cameras.map((c) => [c.id, c.name])) }}
        onChange={(v) => set({ camera: v, width: undefined, height: undefined })}
      />
      <Pair>
        <Count film={film} field="width" label="Width" unit="px" min={16} max={mostWidth} />
        <Count film={film} field="height" label="Height" unit="px" min={16} max={mostHeight} />
      </Pair>
      <Choice
        label="Background"
        value={wish.background ?? 'paper'}
        options={behinds}
        names={{ colour: 'a colour' }}
        hints={{ none: 'In PNGs what is behind shows through; other films are black there.' }}
        onChange={(v) => set({ background: v })}
      />
      {wish.background === 'colour' && (
        <ColourField
          label="Colour behind"
          value={wish.colour ?? '#FFFFFF'}
          onPreview={(v) => set({ colour: v })}
          onCommit={(v) => set({ colour: v })}
        />
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 1 }}>
        {check('Smooth edges', job.smooth, (smooth) => ({ smooth }))}
        {check('Ground', wish.ground ?? true, (ground) => ({ ground }))}
        {check('Paths', wish.paths ?? false, (paths) => ({ paths }))}
        {check('Frame number', job.frameNumber, (frameNumber) => ({ frameNumber }))}
        {check('Name', wish.named ?? false, (named) => ({ named }))}
        {check('Checks outside', wish.checks ?? false, (checks) => ({ checks }), 'What is outside, with its figures.')}
      </Box>
    </>
  )
}

function Stills({ film: { making, begin } }: { film: Making }) {
  const frame = useClock((c) => c.frame)
  const off = useBench((b) => !!b.fault) || making !== null
  return (
    <Pair>
      <Button variant="outlined" disabled={off} onClick={() => begin('still')}>
        Still of frame {frame}
      </Button>
      <Button
        variant="outlined"
        disabled={off || typeof ClipboardItem === 'undefined'}
        title="To the clipboard; browsers allow it at localhost or over https."
        onClick={() => begin('copy')}
      >
        Copy the still
      </Button>
    </Pair>
  )
}

/** Which frames a film has, and how it is coded. */
function FilmFields({ film }: { film: Making }) {
  const { roles } = useTheme()
  const { job, kinds, set } = film
  return (
    <>
      <Pick
        label="Kind of film"
        value={job.kind}
        options={kinds ?? [job.kind]}
        names={kindNames}
        onChange={(kind) => set({ kind })}
      />
      {kinds && !kinds.some((k) => k !== 'apng' && k !== 'png') && (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          This browser encodes no video here: it does so at localhost or over https. Animated PNGs and single ones it
          makes everywhere.
        </Box>
      )}
      <Pair>
        <Count film={film} field="first" label="From frame" max={job.last} />
        <Count film={film} field="last" label="To frame" min={job.first} />
      </Pair>
      {job.loops && (
        <Pair>
          <Count film={film} field="rounds" label="Rounds of the loop" min={1} max={100} />
        </Pair>
      )}
      <Fold
        title={job.moments > 1 ? `Motion blur of ${job.moments} moments` : 'Motion blur: none'}
        open={job.moments > 1}
      >
        <Choice
          label="Moments in each picture"
          value={String(job.moments)}
          options={['1', '4', '8', '16', '32']}
          names={{ '1': 'sharp' }}
          onChange={(v) => set({ moments: Number(v) })}
        />
        <NumberField
          label="The shutter is open for this share of a frame"
          value={job.shutter}
          quantity="plain"
          min={0}
          max={1}
          onCommit={(v) => set({ shutter: v })}
        />
      </Fold>
    </>
  )
}

function Progress({ film: { job, making, progress, error, begin, cancel } }: { film: Making }) {
  const { roles } = useTheme()
  const fault = useBench((b) => b.fault)
  const count = framesOf(job).length
  return (
    <>
      {making ? (
        <Box sx={{ display: 'grid', gap: 0.75 }} role="status">
          <LinearProgress
            variant={progress ? 'determinate' : 'indeterminate'}
            value={progress ? (100 * progress[0]) / progress[1] : 0}
          />
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 11, color: roles.secondary }}>
            <Box sx={{ flex: 1 }}>
              {progress
                ? `${progress[0]} of ${counted(progress[1], 'picture')}, ${Math.ceil(progress[2])} s left`
                : 'The scene is set up.'}
            </Box>
            <Button variant="outlined" color="inherit" onClick={cancel}>
              Cancel
            </Button>
          </Box>
        </Box>
      ) : (
        <Button variant="contained" disabled={!!fault} onClick={() => begin('film')}>
          Make the film: {counted(count, 'picture')}, {(count / job.fps).toFixed(1)} s
        </Button>
      )}
      {error && (
        <Box role="alert" sx={{ fontSize: 11, color: roles.redText }}>
          {error}
        </Box>
      )}
    </>
  )
}

const size = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1e3).toFixed(0)} KB` : `${(bytes / 1e6).toFixed(1)} MB`)

/** The film that was made last. */
function Result({ film: { done, job } }: { film: Making }) {
  const { roles } = useTheme()
  const name = useBench((b) => b.doc!.name)
  if (!done) return null
  return (
    <Box sx={{ display: 'grid', gap: 0.75 }}>
      {done.ending === 'apng' && <img src={done.url} alt="The film" style={{ width: '100%' }} />}
      {(done.ending === 'webm' || done.ending === 'mp4') && (
        <Box
          component="video"
          src={done.url}
          controls
          loop={job.loops}
          muted
          sx={{ width: '100%', borderRadius: '6px', border: `1px solid ${roles.rule}` }}
        />
      )}
      <Button variant="outlined" onClick={() => fetchAs(done.url, `${name}.${done.ending}`)} data-testid="film-done">
        Save it again: {size(done.blob.size)}
      </Button>
    </Box>
  )
}
