import Button from '@mui/material/Button'
import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { insertPoint, RequestError, toPoints } from '../api/client'
import type { Document, Path, PathShape } from '../api/page.generated'
import { showWithUnit } from '../core/units'
import { shapeKind } from '../core/value'
import { useBench } from '../stores/bench'
import { Choice, Figure, Pair, Pick, Vec3Field } from './fields'
import { NumberField } from './NumberField'

const planes = ['side', 'ahead', 'above'] as const
const handleKinds = ['smooth', 'aligned', 'mirrored', 'free'] as const

/** The fields of a path's shape and what was measured of it. */
export function PathFields({ path, index }: { path: Path; index: number }) {
  const { roles } = useTheme()
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const point = useBench((b) => b.point)
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const info = useBench((b) => b.answer?.readout.paths[index])
  const shape = path.shape
  const set = (change: (s: PathShape) => void) => (d: Document) => change(d.paths[index]!.shape)
  /** Props of a number field that sets one number of the shape. */
  const number = (label: string, value: number, put: (s: PathShape, v: number) => void, min = 0.001) => ({
    label,
    value,
    quantity: 'length' as const,
    min,
    onPreview: (v: number) => preview(set((s) => put(s, v))),
    onCommit: (v: number) =>
      edit(
        `set ${label.toLowerCase()} of ${path.name}`,
        set((s) => put(s, v)),
      ),
  })
  const centre = (
    value: [number, number, number],
    put: (s: PathShape, v: [number, number, number]) => void,
    label = 'Centre',
  ) => (
    <Vec3Field
      label={label}
      value={value}
      onPreview={(v) => preview(set((s) => put(s, v)))}
      onCommit={(v) =>
        edit(
          `move ${path.name}`,
          set((s) => put(s, v)),
        )
      }
    />
  )
  const plane = (
    value: (typeof planes)[number] | undefined,
    put: (s: PathShape, v: (typeof planes)[number]) => void,
  ) => (
    <Choice
      label="Plane"
      value={value ?? 'side'}
      options={planes}
      onChange={(v) =>
        edit(
          `lay ${path.name} in the ${v} plane`,
          set((s) => put(s, v)),
        )
      }
    />
  )

  async function replace(label: string, call: Promise<{ shape: PathShape }>) {
    try {
      const made = await call
      edit(label, (d) => void (d.paths[index]!.shape = made.shape))
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      useBench.getState().say(e.message)
    }
  }

  const spline = shape.spline
  const chosen = spline && point !== null ? spline.points[point] : undefined
  // Behind the chosen point, or before the last one; an open path ends with its last.
  const stretches = spline ? spline.points.length - (spline.closed ? 0 : 1) : 0
  const after = Math.min(point ?? stretches - 1, stretches - 1)
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      {shape.line && (
        <>
          {centre(shape.line.from, (s, v) => void (s.line!.from = v), 'From')}
          {centre(shape.line.to, (s, v) => void (s.line!.to = v), 'To')}
        </>
      )}
      {shape.circle && (
        <>
          <NumberField {...number('Radius', shape.circle.radius, (s, v) => void (s.circle!.radius = v))} />
          {centre(shape.circle.centre, (s, v) => void (s.circle!.centre = v))}
          {plane(shape.circle.plane, (s, v) => void (s.circle!.plane = v))}
        </>
      )}
      {shape.ellipse && (
        <>
          <Pair>
            <NumberField {...number('Half axis along', shape.ellipse.along, (s, v) => void (s.ellipse!.along = v))} />
            <NumberField
              {...number('Half axis across', shape.ellipse.across, (s, v) => void (s.ellipse!.across = v))}
            />
          </Pair>
          {centre(shape.ellipse.centre, (s, v) => void (s.ellipse!.centre = v))}
          {plane(shape.ellipse.plane, (s, v) => void (s.ellipse!.plane = v))}
        </>
      )}
      {shape.slot && (
        <>
          <Pair>
            <NumberField {...number('Straights', shape.slot.length, (s, v) => void (s.slot!.length = v), 0)} />
            <NumberField {...number('Radius', shape.slot.radius, (s, v) => void (s.slot!.radius = v))} />
          </Pair>
          {centre(shape.slot.centre, (s, v) => void (s.slot!.centre = v))}
          {plane(shape.slot.plane, (s, v) => void (s.slot!.plane = v))}
        </>
      )}
      {(spline ?? shape.polyline) && (
        <>
          <Choice
            label="Ends"
            value={(spline ?? shape.polyline)!.closed ? 'closed' : 'open'}
            options={['open', 'closed'] as const}
            onChange={(v) =>
              edit(
                v === 'closed' ? 'close the path' : 'open the path',
                set((s) => void ((s.spline ?? s.polyline)!.closed = v === 'closed')),
              )
            }
          />
          {chosen ? (
            <>
              <Vec3Field
                label={`Point ${point! + 1} of ${spline!.points.length}`}
                value={chosen.at}
                onPreview={(v) => preview(set((s) => void (s.spline!.points[point!]!.at = v)))}
                onCommit={(v) =>
                  edit(
                    `move point ${point! + 1}`,
                    set((s) => void (s.spline!.points[point!]!.at = v)),
                  )
                }
              />
              <Pick
                label="Handles"
                value={chosen.handles ?? 'smooth'}
                options={handleKinds}
                onChange={(v) =>
                  edit(
                    `make handles ${v}`,
                    set((s) => {
                      const p = s.spline!.points[point!]!
                      const seen = info?.points?.[point!]
                      if (seen && p.handles === 'smooth') {
                        p.in = seen.in.map((x, i) => x - seen.at[i]!) as [number, number, number]
                        p.out = seen.out.map((x, i) => x - seen.at[i]!) as [number, number, number]
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
            </>
          ) : (
            <Box sx={{ fontSize: 11, color: roles.secondary }}>
              {spline ? `${spline.points.length} points. ` : ''}Pull points in the view; with Shift, straight up or
              down.
            </Box>
          )}
          {spline && (
            <Box sx={{ display: 'flex', gap: 1 }}>
              <Button
                variant="outlined"
                onClick={() => void replace('add a point', insertPoint(shape, after))}
                sx={{ flex: 1 }}
              >
                Add a point
              </Button>
              <Button
                variant="outlined"
                color="inherit"
                disabled={point === null || spline.points.length <= 2}
                onClick={() => {
                  const at = point!
                  useBench.setState({ point: null })
                  edit(
                    `delete point ${at + 1}`,
                    set((s) => void s.spline!.points.splice(at, 1)),
                  )
                }}
                sx={{ flex: 1 }}
              >
                Delete point
              </Button>
            </Box>
          )}
        </>
      )}
      {!spline && (
        <Button variant="outlined" onClick={() => void replace(`turn ${path.name} into points`, toPoints(shape))}>
          Turn into points to pull
        </Button>
      )}
      {info && (
        <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1, display: 'grid', gap: 0.5 }}>
          <Figure
            label="Length"
            value={showWithUnit(info.length, 'distance', units)}
            word={info.closed ? 'closed' : 'open'}
          />
          <Figure
            label="Tightest radius"
            value={info.tightestRadius > 0 ? showWithUnit(info.tightestRadius, 'length', units) : 'straight'}
            word={info.tightestRadius > 0 ? `at ${showWithUnit(info.tightestDistance, 'distance', units)}` : undefined}
          />
          {shapeKind(shape) === 'spline' && (
            <Figure
              label="Off its plane"
              value={showWithUnit(info.offPlane, 'length', units)}
              word={info.offPlane < 1e-6 ? 'flat' : undefined}
            />
          )}
        </Box>
      )}
    </Box>
  )
}
