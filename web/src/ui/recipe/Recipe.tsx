import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { addRider, addTrain, addTug } from '../../core/add'
import { shapeForms } from '../../core/forms'
import { shapeKind } from '../../core/value'
import { useBench } from '../../stores/bench'
import { chosenCarrier, chosenRig } from '../../stores/chosen'
import { CameraFields } from './CameraFields'
import { CarrierFields, countPoints, TugFields } from './CarrierFields'
import { CheckPanel } from '../panels/CheckPanel'
import { DeliverPanel } from '../panels/DeliverPanel'
import { FilmPanel } from '../panels/FilmPanel'
import { FixtureFields } from './FixtureFields'
import { GroundPanel } from '../panels/GroundPanel'
import { addFixture } from '../../core/imports'
import { MaterialFields } from './MaterialFields'
import { PartFields } from './PartFields'
import { PathFields } from './PathFields'
import { Column, FaultNote, Head } from './RecipeParts'
import { RigRecipe } from './RigRecipe'
import { SeveralFields } from './SeveralFields'

/** The chosen thing as a column of numbered steps, or a panel in its place. */
export function Recipe() {
  const { roles } = useTheme()
  const panel = useBench((b) => b.panel)
  const selected = useBench((b) => b.selected)
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
  const edit = useBench((b) => b.edit)
  const select = useBench((b) => b.select)
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
      <Column>
        <Head
          kind="carrier"
          id={carrier.id}
          name={carrier.name}
          note={doc.master === carrier.id ? 'Carrier of everything' : 'Carrier'}
        />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <CarrierFields carrier={carrier} index={doc.carriers!.indexOf(carrier)} />
        </Box>
      </Column>
    )
  }
  if (material) {
    return (
      <Column>
        <Head kind="material" id={material.id} name={material.name} note="Material" />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <MaterialFields material={material} index={doc.materials!.indexOf(material)} />
        </Box>
      </Column>
    )
  }
  if (camera) {
    return (
      <Column>
        <Head kind="camera" id={camera.id} name={camera.name} note="Camera" />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <CameraFields camera={camera} index={doc.cameras!.indexOf(camera)} />
        </Box>
      </Column>
    )
  }
  if (tug) {
    return (
      <Column>
        <Head kind="tug" id={tug.id} name={tug.name} note="Handle" />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <TugFields tug={tug} index={doc.tugs!.indexOf(tug)} />
        </Box>
      </Column>
    )
  }
  if (fixture) {
    return (
      <Column>
        <Head kind="fixture" id={fixture.id} name={fixture.name} note="Fixture" />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2 }}>
          <FixtureFields fixture={fixture} index={doc.fixtures!.indexOf(fixture)} />
        </Box>
      </Column>
    )
  }
  if (path || part) {
    const kind = selected!.kind
    const at = path ? doc.paths.indexOf(path) : doc.parts.indexOf(part!)
    const users = path ? doc.rigs.filter((r) => r.path === path.id) : doc.rigs.filter((r) => r.part === part!.id)
    return (
      <Column>
        <Head
          kind={kind}
          id={selected!.id}
          name={(path ?? part)!.name}
          note={path ? shapeForms[shapeKind(path.shape)].name : 'Part'}
        />
        <FaultNote />
        <Box sx={{ px: 2, pb: 2, display: 'grid', gap: 1.5 }}>
          {path ? <PathFields path={path} index={at} /> : <PartFields part={part!} index={at} />}
          <Box sx={{ borderTop: `1px solid ${roles.rule}`, pt: 1.25, display: 'grid', gap: 1 }}>
            {users.length > 0 && (
              <Box sx={{ color: roles.secondary, fontSize: 11 }}>Used by {users.map((u) => u.name).join(', ')}.</Box>
            )}
            {part && (
              <Button
                variant="outlined"
                onClick={() => {
                  let id = ''
                  edit(`stand ${part.name} in the scene`, (d) => void (id = addFixture(d, part.name, part.id)))
                  select({ kind: 'fixture', id })
                }}
              >
                Stand it in the scene
              </Button>
            )}
            {path && (
              <Button
                variant={users.length ? 'outlined' : 'contained'}
                onClick={() => {
                  let id = ''
                  edit(
                    'add a train',
                    (d) => void (id = addTrain(d, d.paths[at]!, useBench.getState().answer?.readout.paths[at]?.length)),
                  )
                  select({ kind: 'rig', id })
                  useBench.setState({ openStep: 'spacing' })
                }}
              >
                Put a train on this path
              </Button>
            )}
            {path && (
              <Button
                variant="outlined"
                onClick={() => {
                  let id = ''
                  edit('add a rider', (d) => void (id = addRider(d, d.paths[at]!)))
                  select({ kind: 'rig', id })
                  useBench.setState({ openStep: 'lead' })
                }}
              >
                Put a rider on this path
              </Button>
            )}
            {path && countPoints(doc, path.id) > 0 && (
              <Button
                variant="outlined"
                onClick={() => {
                  let id = ''
                  const held = useBench.getState().point ?? 0
                  edit('add a handle', (d) => void (id = addTug(d, path.id, held + 1)))
                  select({ kind: 'tug', id })
                }}
              >
                Add a handle that pulls{' '}
                {useBench.getState().point === null ? 'these points' : `point ${useBench.getState().point! + 1}`}
              </Button>
            )}
          </Box>
        </Box>
      </Column>
    )
  }
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
