import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { addPath } from '../../core/value'
import { firstSun } from '../../core/light'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { Pick } from '../fields/fields'
import { useImport } from '../rack/ImportPaths'
import { NumberField } from '../fields/NumberField'
import { PanelHead } from './PanelHead'
import { MaterialPick } from '../recipe/MaterialPick'
import { Column } from '../recipe/RecipeParts'
import { threeFields } from '../../look/theme'
import { profileOf, useGround } from './groundEdits'
import { Humps, Points, Roughness } from './GroundParts'

/** What lies below: points, humps and roughness, which add up. */
export function GroundPanel() {
  const { roles } = useTheme()
  const { ground } = useGround()
  const level = useBench((b) => !b.doc?.ground)
  return (
    <Column>
      <PanelHead title="Ground and sun" note={level ? 'Level, at height 0' : 'A profile along z'} />
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
            const g = (d.ground ??= {})
            g.material = id
            if (!id) delete g.material
            if (Object.keys(g).length === 0) delete d.ground
          }}
        />
        <Sun />
        <Humps />
        <Roughness />
        <Points />
        <FromPath />
        <DrawOrRead />
      </Box>
    </Column>
  )
}

/** Where the light comes from and how strong it is. */
function Sun() {
  const sun = useBench((b) => b.doc?.light) ?? firstSun
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  return (
    <>
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
    </>
  )
}

/** The profile of a path that stands in the scene, seen from the side. */
function FromPath() {
  const paths = useBench((b) => b.doc?.paths) ?? []
  const { change } = useGround()
  const open = paths.filter((p) => !p.shape.wrap)
  if (open.length === 0) return null
  const take = (path: string) => {
    const at = paths.findIndex((p) => p.id === path)
    const line = useBench.getState().answer?.paths[at]
    const profile = line && profileOf(line.points)
    if (!profile || profile.length < 2) {
      useBench.getState().say('Seen from the side that path has no length: a path that runs along z makes a profile.')
      return
    }
    change(`take the ground from ${paths[at]!.name}`, (g) => void (g.points = profile))
  }
  return (
    <Pick
      inline
      label="Take it from a path"
      value=""
      options={['', ...open.map((p) => p.id)]}
      names={{ '': 'choose…', ...Object.fromEntries(open.map((p) => [p.id, p.name])) }}
      onChange={(v) => v && take(v)}
    />
  )
}

/** Ways to bring a path for the profile into the scene. */
function DrawOrRead() {
  const edit = useBench((b) => b.edit)
  const { input, choose } = useImport(
    (file, paths) => {
      edit(`read ${file}`, (d) => paths.forEach((p) => addPath(d, p.name, p.shape)))
      useBench.getState().say('The file is in the rack: choose it below under Take it from a path.')
    },
    useBench.getState().say,
    () => useBench.getState().say('A profile is a line: an SVG, a CSV or OBJ lines are accepted.'),
  )
  return (
    <>
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
    </>
  )
}
