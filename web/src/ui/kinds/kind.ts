import type { ReactNode } from 'react'
import type { Document, Path, Readout, Rig } from '../../core/page.generated'

/** What one kind of rig is on the bench. One more is a file with this, and a line in kinds.ts. */
export interface KindOfRig {
  /** Its sign in the rack. */
  sign: ReactNode
  /** The step of its recipe that is open when one has been added. */
  opens: string
  /** What the length strip calls what lies there. */
  row: string
  /** The steps of its recipe between its part and its facing. */
  steps: (c: StepContext) => RecipeStep[]
  /** Its pieces cannot have other colours than their part. */
  plain?: boolean
  /** Those of its steps that come between its facing and its travel. */
  after?: (c: StepContext) => RecipeStep[]
  /** What else its travel step has. */
  travels?: (rig: Rig, index: number) => ReactNode
  /** By step, the fields of its kind in the document that a fault may be at. */
  fields: Record<string, string[]>
  /** How one is added, in the rack's menu; figures come from a file. */
  add?: (c: AddContext) => AddKind
  /** Draws what else the length strip shows of it; given where a distance lies on the strip. */
  strip?: (rig: Rig, x: (distance: number) => number, length: number) => ReactNode
}

/** A step of a recipe: what it is called, its title, its sentence, its fields. */
export type RecipeStep = [id: string, title: string, sentence: string, fields: ReactNode]

export interface StepContext {
  rig: Rig
  index: number
  doc: Document
  /** What was found out about it; nothing yet, just after it was added. */
  info?: Readout['rigs'][number]
  /** Its pieces in words: 62 shoes. */
  pieces: string
  /** How far its seam is off, metres. */
  seam?: number
  show: (v: number, q?: 'length' | 'distance') => string
}

export interface AddContext {
  doc: Document
  /** The path to put it on, and its length in metres where it is known. */
  path?: Path
  length?: number
  /** The id of the part that is chosen. */
  part?: string
}

export interface AddKind {
  name: string
  /** Its picture in the menu, drawn on 24 by 16 points. */
  picture: string
  /** What the history says. */
  label: string
  /** The path that it would lie on, or what is wanted first. */
  on?: Path
  wants: string
  make: (d: Document, path: Path) => string
}

/** Said of all that would lie on the chosen path while there is none. */
export const wantsPath = 'Make a path first'

/** The end of a menu's line of what would lie on a path. */
export const onto = (path?: Path) => (path ? ` on ${path.name}` : '')
