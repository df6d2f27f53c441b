import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { insertPoint, RequestError, toPoints } from '../../api/client'
import type { Document, Path, PathShape } from '../../core/page.generated'
import { pointsOf, putPoint, shapeForms, type Vec3 } from '../../core/forms'
import { shapeKind } from '../../core/value'
import { useBench } from '../../stores/bench'
import { addCarrier } from '../../core/add'
import { RidesOn } from './CarrierFields'
import { Choice, Pair, Pick, Vec3Field } from '../fields/fields'
import { FormFields } from '../fields/FormFields'
import { removePoint } from '../things'
import { NumberField } from '../fields/NumberField'
import { PathReading } from './PathReading'
import { PlaceFields } from './PlaceFields'
import { StepsList } from './StepsList'
import { WheelsFields } from './WheelsFields'

/** The fields of a path: its shape, its shaping steps and what was measured of it. */
export function PathFields({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const kind = shapeKind(path.shape)
  const put = (key: string, v: unknown) => (d: Document) =>
    void ((d.paths[index]!.shape[kind] as unknown as Record<string, unknown>)[key] = v)

  async function pull() {
    try {
      const made = await toPoints(useBench.getState().doc!, path.id)
      edit(`turn ${path.name} into points`, (d) => {
        d.paths[index]!.shape = made.shape
        delete d.paths[index]!.steps // they are in the points now
      })
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      useBench.getState().say(e.message)
    }
  }

  const { fields } = shapeForms[kind]
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {fields.length > 0 && (
        <FormFields
          fields={fields}
          value={path.shape[kind]!}
          onPreview={(key, v) => preview(put(key, v))}
          onCommit={(key, v, label) => edit(`set ${label.toLowerCase()} of ${path.name}`, put(key, v))}
        />
      )}
      {path.shape.hang && <HangEnds path={path} index={index} />}
      {path.shape.wrap && <WheelsFields path={path} index={index} />}
      {!path.shape.wrap && pointsOf(path.shape) && <PointsFields path={path} index={index} />}
      {path.shape.track && <TrackFields path={path} index={index} />}
      {(kind !== 'spline' || (path.steps?.length ?? 0) > 0) && (
        <Button variant="outlined" onClick={() => void pull()}>
          {path.steps?.length ? 'Turn with its steps into points' : 'Turn into points to pull'}
        </Button>
      )}
      {!path.shape.track && <RidesOn kind="path" id={path.id} name={path.name} carrier={path.carrier} />}
      {!path.shape.track && !path.shape.over && <PlaceFields path={path} index={index} />}
      <StepsList path={path} index={index} />
      <PathReading path={path} index={index} />
    </Box>
  )
}

/** What holds the ends of a hanging cable. */
function HangEnds({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const carriers = useBench((b) => b.doc?.carriers) ?? []
  const hang = path.shape.hang!
  // Held by something that moves, an end goes along with it; there may be nothing such yet.
  const fresh = 'a new carrier'
  return (
    <Pair>
      {(['fromCarrier', 'toCarrier'] as const).map((end) => (
        <Pick
          key={end}
          label={end === 'fromCarrier' ? 'Its start goes with' : 'Its end goes with'}
          value={hang[end] ?? ''}
          options={['', ...carriers.map((c) => c.id), fresh]}
          names={{ '': 'nothing', ...Object.fromEntries(carriers.map((c) => [c.id, c.name])) }}
          onChange={(v) =>
            v === fresh
              ? edit('hold an end by a new carrier', (d) => {
                  const id = addCarrier(d)
                  d.carriers!.find((c) => c.id === id)!.at = [...(end === 'fromCarrier' ? hang.from : hang.to)]
                  d.paths[index]!.shape.hang![end] = id
                })
              : edit(
                  v ? 'hold an end' : 'let an end be',
                  (d) => void (d.paths[index]!.shape.hang![end] = v || undefined),
                )
          }
        />
      ))}
    </Pair>
  )
}

const handleKinds = ['smooth', 'aligned', 'mirrored', 'free'] as const

/** The points of a spline, polyline, B-spline or path on a surface. */
function PointsFields({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const point = useBench((b) => b.point)
  const info = useBench((b) => b.answer?.readout.paths[index])
  const shape = path.shape
  const set = (change: (s: PathShape) => void) => (d: Document) => change(d.paths[index]!.shape)
  const points = pointsOf(shape)!
  const form = (s: PathShape) => (s.spline ?? s.polyline ?? s.bspline ?? s.over)!
  const chosen = point !== null ? points[point] : undefined
  const closed = form(shape).closed ?? false
  // Behind the chosen point, or before the last one; an open path ends with its last.
  const stretches = points.length - (closed ? 0 : 1)
  const after = Math.min(point ?? stretches - 1, stretches - 1)

  async function addPoint() {
    if (!shape.spline) {
      const a = points[after]!
      const b = points[(after + 1) % points.length]!
      const middle = a.map((x, i) => (x + b[i]!) / 2) as Vec3
      edit(
        'add a point',
        set((s) => {
          pointsOf(s)!.splice(after + 1, 0, middle)
          if (s.polyline?.fillets) s.polyline.fillets.splice(after + 1, 0, 0)
        }),
      )
      return
    }
    try {
      const made = await insertPoint(shape, after)
      edit('add a point', (d) => void (d.paths[index]!.shape = made.shape))
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      useBench.getState().say(e.message)
    }
  }

  const line = shape.polyline
  const fillet = (s: PathShape, v: number) => {
    const p = s.polyline!
    if (point === null) {
      p.fillet = v || undefined
      delete p.fillets
    } else {
      p.fillets ??= p.points.map(() => p.fillet ?? 0)
      while (p.fillets.length < p.points.length) p.fillets.push(0)
      delete p.fillet
      p.fillets[point] = v
    }
  }
  return (
    <>
      <Choice
        label="Ends"
        value={closed ? 'closed' : 'open'}
        options={['open', 'closed'] as const}
        onChange={(v) =>
          edit(
            v === 'closed' ? 'close the path' : 'open the path',
            set((s) => void (form(s).closed = v === 'closed')),
          )
        }
      />
      {chosen ? (
        <Vec3Field
          label={`Point ${point! + 1} of ${points.length}`}
          value={chosen}
          onPreview={(v) => preview(set((s) => putPoint(s, point!, v)))}
          onCommit={(v) =>
            edit(
              `move point ${point! + 1}`,
              set((s) => putPoint(s, point!, v)),
            )
          }
        />
      ) : (
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          {points.length} points. Pull points in the view{shape.over ? '.' : '; with Shift, straight up or down.'}
        </Box>
      )}
      {chosen && shape.spline && (
        <Pick
          label="Handles"
          value={shape.spline.points[point!]!.handles ?? 'smooth'}
          options={handleKinds}
          onChange={(v) =>
            edit(
              `make handles ${v}`,
              set((s) => {
                const p = s.spline!.points[point!]!
                const seen = info?.points?.[point!]
                if (seen && p.handles === 'smooth') {
                  p.in = seen.in.map((x, i) => x - seen.at[i]!) as Vec3
                  p.out = seen.out.map((x, i) => x - seen.at[i]!) as Vec3
                }
                p.handles = v
                if (v === 'smooth') {
                  delete p.in
                  delete p.out
                }
              }),
            )
          }
        />
      )}
      {line && (
        <NumberField
          label={chosen ? `Fillet of corner ${point! + 1}` : 'Fillet of every corner'}
          value={(chosen ? line.fillets?.[point!] : undefined) ?? (chosen && line.fillets ? 0 : (line.fillet ?? 0))}
          quantity="length"
          min={0}
          onPreview={(v) => preview(set((s) => fillet(s, v)))}
          onCommit={(v) =>
            edit(
              'set a fillet',
              set((s) => fillet(s, v)),
            )
          }
        />
      )}
      {shape.over && <OverFields path={path} index={index} />}
      <Pair>
        <Button variant="outlined" onClick={() => void addPoint()}>
          Add a point
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          disabled={point === null || points.length <= 2}
          onClick={() => removePoint()}
        >
          Delete point
        </Button>
      </Pair>
    </>
  )
}

/** What a path on a surface lies on, and how far from it. */
function OverFields({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const fixtures = useBench((b) => b.doc?.fixtures) ?? []
  const over = path.shape.over!
  return (
    <>
      <Pick
        inline
        label="Lies on"
        value={over.fixture}
        options={fixtures.map((f) => f.id)}
        names={Object.fromEntries(fixtures.map((f) => [f.id, f.name]))}
        onChange={(v) => edit(`lay ${path.name} on another`, (d) => void (d.paths[index]!.shape.over!.fixture = v))}
      />
      <NumberField
        label="Clearance"
        value={over.clearance ?? 0}
        quantity="length"
        onPreview={(v) => preview((d) => void (d.paths[index]!.shape.over!.clearance = v))}
        onCommit={(v) => edit(`set clearance of ${path.name}`, (d) => void (d.paths[index]!.shape.over!.clearance = v))}
      />
    </>
  )
}

/** Whose track a path is. */
function TrackFields({ path, index }: { path: Path; index: number }) {
  const edit = useBench((b) => b.edit)
  const rigs = useBench((b) => b.doc?.rigs) ?? []
  const carriers = useBench((b) => b.doc?.carriers) ?? []
  const track = path.shape.track!
  const of = (d: Document) => d.paths[index]!.shape.track!
  return (
    <>
      <Pick
        label="Track of"
        value={track.carrier ? `carrier ${track.carrier}` : `rig ${track.rig}`}
        options={[...rigs.map((r) => `rig ${r.id}`), ...carriers.map((c) => `carrier ${c.id}`)]}
        names={Object.fromEntries<string>([
          ...rigs.map((r) => [`rig ${r.id}`, r.name] as const),
          ...carriers.map((c) => [`carrier ${c.id}`, c.name] as const),
        ])}
        onChange={(v) => {
          const [kind, id] = v.split(' ') as ['rig' | 'carrier', string]
          edit('follow another thing', (d) => {
            const t = of(d)
            delete t.rig
            delete t.carrier
            delete t.piece
            t[kind] = id
          })
        }}
      />
      {track.rig && (
        <NumberField
          label="Piece"
          value={track.piece ?? 1}
          quantity="count"
          min={1}
          onCommit={(v) => edit('follow another piece', (d) => void (of(d).piece = Math.round(v)))}
        />
      )}
      <Choice
        label="Ends"
        value={track.closed ? 'closed' : 'open'}
        options={['open', 'closed'] as const}
        onChange={(v) => edit(`make the track ${v}`, (d) => void (of(d).closed = v === 'closed'))}
      />
    </>
  )
}
