import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import type { Document } from '../../core/page.generated'
import { addPath } from '../../core/value'
import { firstSun } from '../../core/light'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { Choice, Pick } from '../fields/fields'
import { useImport } from '../rack/ImportPaths'
import { NumberField } from '../fields/NumberField'
import { PanelHead } from './PanelHead'
import { MaterialPick } from '../recipe/MaterialPick'
import { Column } from '../recipe/RecipeParts'
import { threeFields } from '../../look/theme'

type Ground = NonNullable<Document['ground']>

/** Most points that a profile takes from a drawn line. */
const mostPoints = 400

/** The profile of a path's drawing seen from the side: places along z and heights. */
function profileOf(line: Float32Array): Ground['points'] {
  const all: { z: number; height: number }[] = []
  for (let i = 0; i < line.length; i += 3) all.push({ z: line[i + 2]!, height: line[i + 1]! })
  if (all.length > 1 && all[0]!.z > all.at(-1)!.z) all.reverse()
  const every = Math.ceil(all.length / mostPoints)
  const round = (v: number) => Number(v.toFixed(6))
  const out: { z: number; height: number }[] = []
  all.forEach((p, i) => {
    const last = out.at(-1)
    if ((i % every === 0 || i === all.length - 1) && (!last || p.z > last.z + 1e-4)) {
      out.push({ z: round(p.z), height: round(p.height) })
    }
  })
  return out
}

/** What lies below: points, humps and roughness, which add up. */
export function GroundPanel() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const ground = doc.ground ?? {}
  const of = (d: Document) => (d.ground ??= {})
  const change = (label: string, to: (g: Ground) => void) =>
    edit(label, (d) => {
      to(of(d))
      const g = d.ground!
      if (!g.points?.length) delete g.points
      if (!g.humps?.length) delete g.humps
      if (!g.points && !g.humps && !g.rough && !g.material) delete d.ground
    })
  const sets = (label: string, to: (g: Ground, v: number) => void) => ({
    onPreview: (v: number) => preview((d) => to(of(d), v)),
    onCommit: (v: number) => change(label, (g) => to(g, v)),
  })
  const sun = doc.light ?? firstSun
  const points = ground.points ?? []
  const humps = ground.humps ?? []
  const rough = ground.rough
  const open = doc.paths.filter((p) => !p.shape.wrap)
  const take = (path: string) => {
    const at = doc.paths.findIndex((p) => p.id === path)
    const line = useBench.getState().answer?.paths[at]
    const profile = line && profileOf(line.points)
    if (!profile || profile.length < 2) {
      useBench.getState().say('Seen from the side that path has no length: a path that runs along z makes a profile.')
      return
    }
    change(`take the ground from ${doc.paths[at]!.name}`, (g) => void (g.points = profile))
  }
  const { input, choose } = useImport(
    (file, paths) => {
      edit(`read ${file}`, (d) => paths.forEach((p) => addPath(d, p.name, p.shape)))
      useBench.getState().say('The file is in the rack: choose it below under Take it from a path.')
    },
    useBench.getState().say,
    () => useBench.getState().say('A profile is a line: an SVG, a CSV or OBJ lines are accepted.'),
  )
  const row = { display: 'grid', gridTemplateColumns: '1fr 1fr 1fr 24px', gap: 0.75, alignItems: 'end' } as const
  return (
    <Column>
      <PanelHead title="Ground and sun" note={doc.ground ? 'A profile along z' : 'Level, at height 0'} />
      <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>
        <Box sx={{ fontSize: 11, color: roles.secondary }}>
          Belts whose wheels ride on it follow it, and so does the carrier under them. Points, humps and roughness add
          up.
        </Box>
        <MaterialPick
          label="Material"
          value={ground.material}
          otherwise="None: it is drawn as a chart"
          onChange="make the ground of another material"
          set={(d, id) => {
            of(d).material = id
            if (!id) delete d.ground!.material
            if (Object.keys(d.ground!).length === 0) delete d.ground
          }}
        />
        <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
          Sun
        </Box>
        <Box role="group" aria-label="Sun" sx={threeFields}>
          {(
            [
              ['heading', 'From', 'angle'],
              ['height', 'Height', 'angle'],
              ['strength', 'Strength', 'plain'],
            ] as const
          ).map(([field, label, quantity]) => (
            <NumberField
              key={field}
              label={label}
              value={sun[field]}
              quantity={quantity}
              at={`light/${field}`}
              onPreview={(v) => preview((d) => void (d.light = { ...sun, [field]: v }))}
              onCommit={(v) => edit('move the sun', (d) => void (d.light = { ...sun, [field]: v }))}
            />
          ))}
        </Box>
        <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
          Humps
        </Box>
        {humps.map((h, i) => (
          <Box key={i} role="group" aria-label={`Hump ${i + 1}`} sx={row}>
            <NumberField
              label="At z"
              at="ground/humps/*/z"
              value={h.z}
              quantity="distance"
              {...sets('move a hump', (g, v) => void (g.humps![i]!.z = v))}
            />
            <NumberField
              label="Length"
              at="ground/humps/*/length"
              value={h.length}
              quantity="distance"
              {...sets('set the length of a hump', (g, v) => void (g.humps![i]!.length = v))}
            />
            <NumberField
              label="Height"
              at="ground/humps/*/height"
              value={h.height}
              quantity="length"
              {...sets('set the height of a hump', (g, v) => void (g.humps![i]!.height = v))}
            />
            <Remove
              label={`Remove hump ${i + 1}`}
              onClick={() => change('take out a hump', (g) => void g.humps!.splice(i, 1))}
            />
          </Box>
        ))}
        <Button
          variant="outlined"
          onClick={() => change('add a hump', (g) => void (g.humps ??= []).push({ z: 0, length: 4, height: 0.2 }))}
        >
          Add a hump
        </Button>
        <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
          Roughness
        </Box>
        {rough ? (
          <>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
              <NumberField
                label="Amount"
                at="ground/rough/amount"
                value={rough.amount}
                quantity="length"
                {...sets('set the roughness', (g, v) => void (g.rough!.amount = v))}
              />
              <NumberField
                label="Grain"
                at="ground/rough/grain"
                value={rough.grain}
                quantity="length"
                {...sets('set the grain', (g, v) => void (g.rough!.grain = v))}
              />
              <NumberField
                label="From z"
                value={rough.from}
                quantity="distance"
                {...sets('set where it begins', (g, v) => void (g.rough!.from = v))}
              />
              <NumberField
                label="To z"
                value={rough.to}
                quantity="distance"
                {...sets('set where it ends', (g, v) => void (g.rough!.to = v))}
              />
              <NumberField
                label="Seed"
                value={rough.seed}
                quantity="count"
                onCommit={(v) => change('take another seed', (g) => void (g.rough!.seed = Math.round(v)))}
              />
            </Box>
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => change('smooth the ground', (g) => void delete g.rough)}
            >
              Take it away
            </Button>
          </>
        ) : (
          <Button
            variant="outlined"
            onClick={() =>
              change(
                'roughen the ground',
                (g) => void (g.rough = { seed: 1, amount: 0.05, grain: 0.8, from: -6, to: 6 }),
              )
            }
          >
            Make it rough
          </Button>
        )}
        <Box component="h3" sx={{ typography: 'h3', m: 0 }}>
          Points
        </Box>
        {points.length > 12 ? (
          <Box sx={{ fontSize: 11, color: roles.secondary }}>
            {points.length} points from z {points[0]!.z.toFixed(2)} m to {points.at(-1)!.z.toFixed(2)} m.
          </Box>
        ) : (
          points.map((p, i) => (
            <Box
              key={i}
              role="group"
              aria-label={`Point ${i + 1}`}
              sx={{ ...row, gridTemplateColumns: '1fr 1fr 24px' }}
            >
              <NumberField
                label="At z"
                value={p.z}
                quantity="distance"
                {...sets('move a point of the ground', (g, v) => void (g.points![i]!.z = v))}
              />
              <NumberField
                label="Height"
                value={p.height}
                quantity="length"
                {...sets('raise a point of the ground', (g, v) => void (g.points![i]!.height = v))}
              />
              <Remove
                label={`Remove point ${i + 1}`}
                onClick={() => change('take out a point', (g) => void g.points!.splice(i, 1))}
              />
            </Box>
          ))
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <Button
            variant="outlined"
            onClick={() =>
              change('add a point to the ground', (g) => {
                const list = (g.points ??= [])
                if (list.length === 0) list.push({ z: -2, height: 0 }, { z: 2, height: 0.3 })
                else list.push({ z: list.at(-1)!.z + 1, height: list.at(-1)!.height })
              })
            }
          >
            Add a point
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            disabled={points.length === 0}
            onClick={() => change('take out all points', (g) => void delete g.points)}
          >
            Remove all
          </Button>
        </Box>
        {points.length > 2 && (
          <Choice
            label="Between the points"
            value={ground.smooth ? 'smooth' : 'straight'}
            options={['straight', 'smooth'] as const}
            onChange={(v) => change(`go ${v} between points`, (g) => void (g.smooth = v === 'smooth' || undefined))}
          />
        )}
        {open.length > 0 && (
          <Pick
            inline
            label="Take it from a path"
            value=""
            options={['', ...open.map((p) => p.id)]}
            names={{ '': 'choose…', ...Object.fromEntries(open.map((p) => [p.id, p.name])) }}
            onChange={(v) => v && take(v)}
          />
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <Button
            variant="outlined"
            onClick={() => {
              useView.getState().look('side')
              useBench.setState({ panel: 'recipe' })
              useBench.getState().startDrawing()
              useBench.getState().say('Draw the profile from the side; then take the ground from it here.')
            }}
          >
            Draw a profile
          </Button>
          <Button variant="outlined" onClick={choose}>
            From SVG or CSV
          </Button>
        </Box>
        {input}
      </Box>
    </Column>
  )
}

function Remove({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton aria-label={label} title={label} onClick={onClick} sx={{ width: 24, height: 26 }}>
      <Close sx={{ fontSize: 16 }} />
    </IconButton>
  )
}
