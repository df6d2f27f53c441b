import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import LinearProgress from '@mui/material/LinearProgress'
import { useTheme } from '@mui/material/styles'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { aboutQuery, bakeFileUrl, bakeState, cancelBake, documentUrl, RequestError, startBake } from '../../api/client'
import type { BakeState } from '../../core/page.generated'
import { useClock } from '../../stores/clock'
import { useBench } from '../../stores/bench'
import { Choice, Figure, Pair } from '../fields/fields'
import { NumberField } from '../fields/NumberField'
import { PanelHead } from './PanelHead'
import { counted } from '../../core/units'
import { playsOnce } from '../../core/value'
import { failing } from './checks'
import { Column } from '../recipe/RecipeParts'

const size = (bytes: number) => (bytes < 1e6 ? `${(bytes / 1e3).toFixed(0)} KB` : `${(bytes / 1e6).toFixed(1)} MB`)

/** Bakes to open formats; long bakes show their progress and can be cancelled. */
export function DeliverPanel() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const id = useBench((b) => b.id)
  const fault = useBench((b) => b.fault)
  const checks = useBench((b) => b.checks)
  const figures = doc.rigs.some((r) => r.cycle)
  const formats = (useQuery(aboutQuery).data?.bakes ?? []).filter((f) => figures || !f.only)
  const [inPlace, setInPlace] = useState(false)
  const [ownKeys, setOwnKeys] = useState(false)
  const [tolerance, setTolerance] = useState(0.001)
  const [ending, setFormat] = useState('glb')
  const format = formats.find((f) => f.ending === ending)
  const [first, setFirst] = useState(doc.range.first)
  const [last, setLast] = useState(doc.range.last)
  const [left, setLeft] = useState<string[]>([])
  const [paths, setPaths] = useState(false)
  const [exact, setExact] = useState(false)
  const bends = useBench((b) => b.answer?.readout.rigs.some((r) => r.body)) ?? false
  const [single, setSingle] = useState(false)
  const [solver, setSolver] = useState(false)
  const fallsAt = useBench((b) => b.doc?.rigs.find((r) => r.train?.fall)?.train?.fall?.first)
  const [density, setDensity] = useState(1000)
  const [job, setJob] = useState<BakeState | null>(null)
  const [centred, setCentred] = useState(false)
  const frame = useClock((c) => c.frame)
  const [error, setError] = useState('')
  // With the frame after the last, players that go from key to key run through the whole loop.
  const loops = !playsOnce(doc) && last === doc.range.last && first < last
  const [closing, setClosing] = useState(true)
  const to = loops && closing ? last + 1 : last
  const wish = `${ending} ${first} ${to} ${left.join()} ${paths} ${exact} ${single} ${centred} ${solver && density} ${closing} ${inPlace} ${ownKeys && tolerance}`
  const [baked, setBaked] = useState('')
  // What was baked of another choice is not offered any more.
  const result = baked === wish ? job : null
  const rigs = doc.rigs.filter((r) => !left.includes(r.id))
  const outside = checks.filter((c) => c.state === 'outside' && rigs.some((r) => r.id === c.rig))
  const running = job?.state === 'running'

  useEffect(() => {
    if (job?.state !== 'running') return
    const timer = setTimeout(() => {
      bakeState(job.id).then(
        (s) => {
          setJob(s)
          if (s.state === 'finished') fetchFile(s.id)
          if (s.state === 'failed')
            setError(/cancel/.test(s.detail ?? '') ? 'The bake was cancelled.' : (s.detail ?? ''))
        },
        (e: unknown) => setError(String(e instanceof Error ? e.message : e)),
      )
    }, 120)
    return () => clearTimeout(timer)
  }, [job])

  async function bake() {
    setError('')
    setBaked(wish)
    try {
      setJob(
        await startBake(doc, {
          format: ending,
          first,
          last: to,
          rigs: rigs.map((r) => r.id),
          paths: paths && !!format?.lines,
          single: single && !!format?.single,
          density: solver && format?.solver ? density : 0,
          centred,
          exact: exact && !!format?.exact,
          inPlace: inPlace && !!format?.figures,
          ownKeys: ownKeys && !!format?.keys,
          tolerance,
        }),
      )
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      setError(e.message)
    }
  }

  return (
    <Column>
      <PanelHead title="Deliver" note={doc.name} />
      <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>
        <Button variant="outlined" onClick={() => useBench.setState({ panel: 'film' })}>
          Film and stills
        </Button>
        <Choice
          label="Format"
          value={ending}
          options={formats.map((f) => f.ending)}
          names={Object.fromEntries(formats.map((f) => [f.ending, f.name]))}
          onChange={setFormat}
        />
        <Box sx={{ fontSize: 11, color: roles.secondary }}>{format?.text}</Box>
        <Pair>
          <NumberField label="From frame" value={first} quantity="count" onCommit={setFirst} max={last} />
          <NumberField label="To frame" value={last} quantity="count" onCommit={setLast} min={first} />
        </Pair>
        <Pair>
          {(
            [
              [`Frame ${frame} alone`, frame, frame],
              ['The whole range', doc.range.first, doc.range.last],
            ] as const
          ).map(([name, a, b]) => (
            <Button
              key={name}
              variant="outlined"
              color="inherit"
              disabled={first === a && last === b}
              onClick={() => {
                setFirst(a)
                setLast(b)
              }}
            >
              {name}
            </Button>
          ))}
        </Pair>
        {loops && (
          <FormControlLabel
            sx={{ height: 26, ml: -1 }}
            title="The frame after the last. Where the loop meets it shows the first again, and players run through the whole loop."
            control={<Checkbox size="small" checked={closing} onChange={(e) => setClosing(e.target.checked)} />}
            label={`The closing frame too, ${last + 1}`}
          />
        )}
        <Box role="group" aria-label="Rigs to bake">
          {doc.rigs.map((r) => (
            <FormControlLabel
              key={r.id}
              sx={{ display: 'flex', height: 26, ml: -1 }}
              control={
                <Checkbox
                  size="small"
                  checked={!left.includes(r.id)}
                  onChange={(e) => setLeft(e.target.checked ? left.filter((x) => x !== r.id) : [...left, r.id])}
                />
              }
              label={r.name}
            />
          ))}
          {doc.rigs.length === 0 && <Box sx={{ color: roles.secondary }}>There is no rig to bake yet.</Box>}
        </Box>
        {format?.lines && (
          <FormControlLabel
            sx={{ height: 26, ml: -1 }}
            control={<Checkbox size="small" checked={paths} onChange={(e) => setPaths(e.target.checked)} />}
            label="The paths too, as lines"
          />
        )}
        {format?.single && (
          <FormControlLabel
            sx={{ height: 26, ml: -1 }}
            title="For those who go on with a solver of rigid bodies"
            control={<Checkbox size="small" checked={single} onChange={(e) => setSingle(e.target.checked)} />}
            label="Single pieces, each a mesh of its own"
          />
        )}
        {format?.single && single && (
          <Choice
            label="Origin of a piece"
            value={centred ? 'centre' : 'pivot'}
            options={['pivot', 'centre'] as const}
            names={{ pivot: 'its pivot', centre: 'its centre' }}
            onChange={(v) => setCentred(v === 'centre')}
          />
        )}
        {format?.solver && (
          <FormControlLabel
            sx={{ height: 26, ml: -1 }}
            title="Pieces as they stand in the first frame, with mass and colliders; fixtures and ground stand still"
            control={<Checkbox size="small" checked={solver} onChange={(e) => setSolver(e.target.checked)} />}
            label="For a solver of rigid bodies"
          />
        )}
        {format?.solver && solver && (
          <NumberField
            label="Density of the pieces"
            value={density}
            quantity="plain"
            unit="kg/m³"
            min={1}
            max={1000000}
            onCommit={setDensity}
          />
        )}
        {format?.solver && solver && (
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            The pieces stand as at frame {first}
            {fallsAt === undefined || fallsAt === first ? '.' : `; those that fall are let go at frame ${fallsAt}.`}
          </Box>
        )}
        {format?.exact && bends && (
          <Choice
            label="Bodies that bend"
            value={exact ? 'exact' : 'joints'}
            options={['joints', 'exact'] as const}
            names={{ joints: 'joints and weights', exact: 'exact, each frame' }}
            onChange={(v) => setExact(v === 'exact')}
          />
        )}
        {figures && format?.figures && (
          <Choice
            label="Roots of figures"
            value={inPlace ? 'stay' : 'move'}
            options={['move', 'stay'] as const}
            names={{ move: 'go along', stay: 'stay in place' }}
            onChange={(v) => setInPlace(v === 'stay')}
          />
        )}
        {figures && format?.keys && (
          <Choice
            label="Keys of figures"
            value={ownKeys ? 'own' : 'every'}
            options={['every', 'own'] as const}
            names={{ every: 'in every frame', own: 'where it has its own' }}
            onChange={(v) => setOwnKeys(v === 'own')}
          />
        )}
        {figures && format?.keys && ownKeys && (
          <NumberField
            label="A joint is off between keys by at most"
            value={tolerance}
            quantity="length"
            min={0}
            onCommit={setTolerance}
          />
        )}
        {outside.length > 0 && (
          <Box sx={{ p: 1, borderRadius: '6px', background: roles.redTint, color: roles.redText, fontSize: 11 }}>
            {outside.length === 1 ? 'One check fails' : `${outside.length} checks fail`}:{' '}
            {outside.map((c) => failing(c, doc.units)).join(', ')}. You can still export.
          </Box>
        )}
        {!running && (
          <Button variant="contained" disabled={rigs.length === 0 || !!fault} onClick={() => void bake()}>
            Bake {counted(to - first + 1, 'frame')}
          </Button>
        )}
        {running && (
          <Box sx={{ display: 'grid', gap: 0.75 }}>
            <LinearProgress
              variant="determinate"
              value={(100 * job.done) / Math.max(job.total, 1)}
              aria-label="Baking"
            />
            <Box sx={{ display: 'flex', alignItems: 'center' }}>
              <Box sx={{ flex: 1, color: roles.secondary, fontSize: 11 }}>
                Frame {job.done} of {job.total}, about {Math.ceil(job.left)} s left
              </Box>
              <Button color="inherit" onClick={() => void cancelBake(job.id)}>
                Cancel
              </Button>
            </Box>
          </Box>
        )}
        {result?.state === 'finished' && (
          <Box role="status" sx={{ display: 'grid', gap: 0.5 }} data-testid="baked" data-job={result.id}>
            <Figure label="Baked" value={size(result.bytes)} word="downloaded" tone="good" />
            {result.notes?.map((n) => (
              <Box key={n} sx={{ fontSize: 11, color: roles.secondary }}>
                {n}
              </Box>
            ))}
            <Button variant="outlined" onClick={() => fetchFile(result.id)}>
              Save the file again
            </Button>
          </Box>
        )}
        {error && (
          <Box role="alert" sx={{ color: roles.redText, fontSize: 11 }}>
            {error}
          </Box>
        )}
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25 }}>
          <Button variant="outlined" fullWidth href={documentUrl(id)} download>
            Save the scene document
          </Button>
          <Box sx={{ mt: 0.75, fontSize: 11, color: roles.secondary }}>
            The scene as JSON, to keep, to send on, or for the bead command on a farm.
          </Box>
        </Box>
      </Box>
    </Column>
  )
}

function fetchFile(job: string) {
  const a = document.createElement('a')
  a.href = bakeFileUrl(job)
  a.download = ''
  a.click()
}
