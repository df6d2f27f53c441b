import { addCarrier, addMaterial, addPart, addTug } from '../../core/add'
import { addCamera, type Eye } from '../../core/camera'
import { newParts, newPaths, palette } from '../../core/forms'
import { addFixture } from '../../core/imports'
import type { Document } from '../../core/page.generated'
import { addPath } from '../../core/value'
import { fov } from '../../scene/lens'
import { presentEye } from '../../scene/presentEye'
import { useBench, type Kind, type Selection } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { onto, type AddContext, type AddKind } from '../kinds/kind'
import { kindIn, kinds } from '../kinds/kinds'
import { countPoints } from '../recipe/CarrierFields'
import type { Addable } from './AddMenu'

/** How a camera looks that is made before the view is. */
const corner: Eye = { at: [6, 4, 6], ahead: [-6, -4, -6], up: [0, 1, 0], target: [0, 0, 0] }

/** What the history says of a new thing of this name. */
const adding = (name: string) => `add ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`

/** Makes a thing, chooses it and opens the step of its recipe that comes first. */
function made(kind: Kind, label: string, make: (d: Document) => string) {
  let id = ''
  useBench.getState().edit(label, (d) => void (id = make(d)))
  useBench.getState().select({ kind, id })
  const rig = useBench.getState().doc!.rigs.find((r) => r.id === id)
  useBench.setState({ openStep: kind === 'rig' && rig ? kindIn(rig).opens : 'path' })
  if (kind === 'path' || kind === 'fixture') useView.getState().lookSoon()
}

/** The menu's line of a kind of rig. */
const rigItem = (k: AddKind): Addable => ({
  group: 'Rig',
  name: k.name,
  picture: k.picture,
  wants: k.on ? undefined : k.wants,
  add: () =>
    made('rig', k.label, (d) =>
      k.make(
        d,
        d.paths.find((p) => p.id === k.on!.id)!,
      ),
    ),
})

/** What comes from files, by whoever asks for them. */
export interface Files {
  paths: () => void
  mesh: () => void
  figure: () => void
}

/** Everything that can be added to a scene, in the order of the menu. */
export function addables(doc: Document, selected: Selection | null, files: Files): Addable[] {
  // On the chosen path, or that of the chosen rig, or the last one.
  const chosen =
    selected?.kind === 'rig'
      ? doc.rigs.find((r) => r.id === selected.id)?.path
      : selected?.kind === 'path' && selected.id
  const path = doc.paths.find((p) => p.id === chosen) ?? doc.paths.at(-1)
  const part = selected?.kind === 'part' ? selected.id : undefined
  const within: AddContext = {
    doc,
    path,
    length: path && useBench.getState().answer?.readout.paths[doc.paths.indexOf(path)]?.length,
    part,
  }
  return [
    ...pathItems(doc, selected, files),
    ...partItems(part),
    ...Object.values(kinds).flatMap((k) => (k.add ? [rigItem(k.add(within))] : [])),
    {
      group: 'Rig',
      name: `Figure with its cycle from a file${onto(path)}: BVH, glTF`,
      picture: 'figure',
      add: files.figure,
    },
    ...fixtureItems(files),
    ...moverItems([path, ...doc.paths].find((p) => p && countPoints(doc, p.id) > 0)),
  ]
}

function pathItems(doc: Document, selected: Selection | null, files: Files): Addable[] {
  const group = 'Path'
  const from = doc.rigs.find((r) => r.id === selected?.id) ?? doc.rigs[0]
  return [
    { group, name: 'Draw by clicking', picture: 'draw', add: () => useBench.getState().startDrawing() },
    ...newPaths.map(([name, shape]) => ({
      group,
      name,
      picture: Object.keys(shape)[0]!,
      add: () => made('path', adding(name), (d) => addPath(d, name, shape)),
    })),
    { group, name: 'From a file: SVG, CSV, OBJ or glTF lines', picture: 'file', add: files.paths },
    {
      group,
      name: from ? `Track of a piece of ${from.name}` : 'Track of a piece',
      picture: 'track',
      wants: from ? undefined : 'Make a rig first',
      add: () => made('path', 'add a track', (d) => addPath(d, 'Track', { track: { rig: from!.id, piece: 1 } })),
    },
  ]
}

function partItems(chosen: string | undefined): Addable[] {
  const group = 'Part'
  return [
    ...newParts.map(([name, shape]) => ({
      group,
      name,
      picture: Object.keys(shape)[0]!,
      add: () => made('part', adding(name), (d) => addPart(d, name, shape)),
    })),
    {
      group,
      name: 'Material that parts are made of',
      picture: 'material',
      add: () =>
        made('material', 'add a material', (d) => {
          const id = addMaterial(d, { ...palette.find((m) => m.id === 'paint')!, name: 'Material' })
          const part = d.parts.find((p) => p.id === chosen)
          if (part) part.material = id
          return id
        }),
    },
  ]
}

function fixtureItems(files: Files): Addable[] {
  const group = 'Fixture, to lay paths on'
  return [
    {
      group,
      name: 'Post',
      picture: 'post',
      add: () =>
        made('fixture', 'add a post', (d) => {
          const part = addPart(d, 'Post', { post: { radius: 0.2, height: 2 } })
          return addFixture(d, 'Post', part)
        }),
    },
    { group, name: 'Mesh from a file: OBJ, glTF', picture: 'mesh', add: files.mesh },
  ]
}

function moverItems(tuggable: { id: string; name: string } | undefined): Addable[] {
  const group = 'What moves'
  return [
    {
      group,
      name: 'Carrier: a frame that others ride on',
      picture: 'carrier',
      add: () => made('carrier', 'add a carrier', addCarrier),
    },
    {
      group,
      name: tuggable ? `Handle that pulls points of ${tuggable.name}` : 'Handle that pulls points',
      picture: 'tug',
      wants: tuggable ? undefined : 'Needs a path with points of its own',
      add: () => made('tug', 'add a handle', (d) => addTug(d, tuggable!.id, (useBench.getState().point ?? 0) + 1)),
    },
    {
      group,
      name: 'Camera that looks as the view does',
      picture: 'camera',
      add: () => made('camera', 'add a camera', (d) => addCamera(d, presentEye() ?? corner, fov)),
    },
  ]
}
