import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { shapeForms } from '../../core/forms'
import { shapeKind } from '../../core/value'
import { useBench } from '../../stores/bench'
import { chosenCarrier, chosenRig } from '../../stores/chosen'
import { CameraFields } from './CameraFields'
import { CarrierFields, TugFields } from './CarrierFields'
import { CheckPanel } from '../panels/CheckPanel'
import { DeliverPanel } from '../panels/DeliverPanel'
import { FilmPanel } from '../panels/FilmPanel'
import { FixtureFields } from './FixtureFields'
import { GroundPanel } from '../panels/GroundPanel'
import { MaterialFields } from './MaterialFields'
import { PartFields } from './PartFields'
import { PathFields } from './PathFields'
import { Column, FaultNote, Head } from './RecipeParts'
import { RigRecipe } from './RigRecipe'
import { SeveralFields } from './SeveralFields'
import { PartUses, PathUses } from './Uses'

/** The chosen thing as a column of numbered steps, or a panel in its place. */
export function Recipe() {
  const panel = useBench((b) => b.panel)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const index = useBench((b) => chosenRig(b)?.index ?? -1)
  const path = useBench((b) => b.doc?.paths.find((p) => b.selected?.kind === 'path' && p.id === b.selected.id))
  const part = useBench((b) => b.doc?.parts.find((p) => b.selected?.kind === 'part' && p.id === b.selected.id))
  const fixture = useBench((b) =>
    b.doc?.fixtures?.find((f) => b.selected?.kind === 'fixture' && f.id === b.selected.id),
  )
  const carrier = useBench((b) => chosenCarrier(b)?.carrier)
  const material = useBench((b) =>
    b.doc?.materials?.find((m) => b.selected?.kind === 'material' && m.id === b.selected.id),
  )
  const camera = useBench((b) => b.doc?.cameras?.find((c) => b.selected?.kind === 'camera' && c.id === b.selected.id))
  const tug = useBench((b) => b.doc?.tugs?.find((t) => b.selected?.kind === 'tug' && t.id === b.selected.id))
  const doc = useBench((b) => b.doc)
  const several = useBench((b) => b.also.length > 0 && !!b.selected)
  if (!doc) return null
  if (panel === 'check') return <CheckPanel />
  if (panel === 'deliver') return <DeliverPanel />
  if (panel === 'film') return <FilmPanel />
  if (panel === 'ground') return <GroundPanel />
  if (several) return <SeveralFields />
  if (rig) return <RigRecipe rig={rig} index={index} />
  if (carrier) {
    return (
      <Thing
        kind="carrier"
        id={carrier.id}
        name={carrier.name}
        note={doc.master === carrier.id ? 'Carrier of everything' : 'Carrier'}
      >
        <CarrierFields carrier={carrier} index={doc.carriers!.indexOf(carrier)} />
      </Thing>
    )
  }
  if (material) {
    return (
      <Thing kind="material" id={material.id} name={material.name} note="Material">
        <MaterialFields material={material} index={doc.materials!.indexOf(material)} />
      </Thing>
    )
  }
  if (camera) {
    return (
      <Thing kind="camera" id={camera.id} name={camera.name} note="Camera">
        <CameraFields camera={camera} index={doc.cameras!.indexOf(camera)} />
      </Thing>
    )
  }
  if (tug) {
    return (
      <Thing kind="tug" id={tug.id} name={tug.name} note="Handle">
        <TugFields tug={tug} index={doc.tugs!.indexOf(tug)} />
      </Thing>
    )
  }
  if (fixture) {
    return (
      <Thing kind="fixture" id={fixture.id} name={fixture.name} note="Fixture">
        <FixtureFields fixture={fixture} index={doc.fixtures!.indexOf(fixture)} />
      </Thing>
    )
  }
  if (path) {
    return (
      <Thing kind="path" id={path.id} name={path.name} note={shapeForms[shapeKind(path.shape)].name}>
        <PathFields path={path} index={doc.paths.indexOf(path)} />
        <PathUses path={path} index={doc.paths.indexOf(path)} />
      </Thing>
    )
  }
  if (part) {
    return (
      <Thing kind="part" id={part.id} name={part.name} note="Part">
        <PartFields part={part} index={doc.parts.indexOf(part)} />
        <PartUses part={part} />
      </Thing>
    )
  }
  return <Nothing />
}

/** One thing's column: its name, what is wrong, its fields. */
function Thing({ children, ...head }: React.ComponentProps<typeof Head> & { children: React.ReactNode }) {
  return (
    <Column>
      <Head {...head} />
      <FaultNote />
      <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>{children}</Box>
    </Column>
  )
}

function Nothing() {
  const { roles } = useTheme()
  return (
    <Column>
      <Box sx={{ p: 2, color: roles.secondary }}>
        <Box component="h2" sx={{ typography: 'h2', color: roles.ink, mt: 0, mb: 0.5 }}>
          Nothing chosen
        </Box>
        Choose something in the rack or the view. A new scene begins with a path: press Add, or draw one by clicking.
        <Button
          variant="contained"
          sx={{ mt: 1.5, display: 'block' }}
          onClick={() => useBench.getState().startDrawing()}
        >
          Draw a path
        </Button>
      </Box>
    </Column>
  )
}
