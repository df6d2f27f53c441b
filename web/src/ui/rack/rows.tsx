import type { ReactNode } from 'react'
import { isLoop } from '../../core/forms'
import type { Document } from '../../core/page.generated'
import { drawnPath } from '../../core/value'
import { CameraIcon, CarrierIcon, CurveIcon, LoopIcon, MeshIcon, PostIcon, TugIcon } from '../../look/icons'
import type { Kind } from '../../stores/bench'
import { kindIn } from '../kinds/kinds'
import { Swatch } from '../recipe/MaterialPick'
import { partIcon } from './signs'

/** A thing in the rack. */
export interface Item {
  id: string
  name: string
  icon: ReactNode
}

/** The things of a kind. */
export interface Row {
  label: string
  kind: Kind
  items: Item[]
}

/** What the rack shows of a scene: paths, parts and rigs always, other kinds where there are any. */
export function rowsOf(doc: Document): Row[] {
  const row = <T extends { id: string; name: string }>(
    label: string,
    kind: Kind,
    list: T[] | undefined,
    icon: (x: T) => ReactNode,
  ): Row => ({ label, kind, items: (list ?? []).map((x) => ({ id: x.id, name: x.name, icon: icon(x) })) })
  const always = ['path', 'part', 'rig']
  return [
    row(
      'Paths',
      'path',
      doc.paths.filter((p) => p.id !== drawnPath),
      (p) => (isLoop(p.shape) ? <LoopIcon /> : <CurveIcon />),
    ),
    row('Parts', 'part', doc.parts, (p) => partIcon(p.shape)),
    row('Materials', 'material', doc.materials, (m) => <Swatch of={m} />),
    row('Fixtures', 'fixture', doc.fixtures, (f) =>
      doc.parts.find((p) => p.id === f.part)?.shape.post ? <PostIcon /> : <MeshIcon />,
    ),
    row('Rigs', 'rig', doc.rigs, (r) => kindIn(r).sign),
    row('Carriers', 'carrier', doc.carriers, () => <CarrierIcon />),
    row('Cameras', 'camera', doc.cameras, () => <CameraIcon />),
    row('Handles', 'tug', doc.tugs, () => <TugIcon />),
  ].filter((r) => r.items.length > 0 || always.includes(r.kind))
}

/** The rows with only what has a text in its name. */
export const rowsWith = (rows: Row[], text: string): Row[] =>
  rows
    .map((r) => ({ ...r, items: r.items.filter((x) => x.name.toLowerCase().includes(text)) }))
    .filter((r) => r.items.length > 0)
