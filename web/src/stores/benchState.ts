import type { EdgeWay } from '../api/client'
import type { FrameCache } from '../core/frameCache'
import type { Document, EdgeChain, Readout, Refusal, Result, SceneState, Simulating } from '../core/page.generated'
import type { Kind } from '../core/remove'
import type { SaveState } from '../core/saveQueue'
import type { Side } from '../core/handles'
import type { MeshData, PathLine, Pieces, Shot } from '../core/wire'
import type { ViewName } from './prefs'

export interface Selection {
  kind: Kind
  id: string
}
export type Panel = 'recipe' | 'check' | 'deliver' | 'ground' | 'film'

/** What the person is doing in the view besides looking. */
export type Tool =
  | { kind: 'none' }
  /** Points are set by clicking in the plane of a view, or on a fixture. */
  | {
      kind: 'draw'
      points: [number, number, number][]
      view: ViewName
      over?: string
      /** Where the next point would be, and what it snaps to. */
      at?: [number, number, number]
      to?: string
    }
  /** Points of a rig's cloth are picked. */
  | { kind: 'pins'; rig: string }
  /** An edge of a fixture is pointed at; the chain that goes on from it is shown. */
  | { kind: 'edges'; fixture: string; way: EdgeWay; at: [number, number, number] | null; chain: EdgeChain | null }

/** The picture that the server made of the newest edit it has answered. */
export interface Answer {
  readout: Readout
  /** The paths' drawings in their own spaces. Paths that change their shape are as in this frame. */
  paths: PathLine[]
  /** The frame that came with it. */
  shot: Shot
  /** The document that this is the picture of. */
  doc: Document
}

/** The open scene's document, its steps of history and what becomes of its edits. */
export interface DocumentState {
  id: string
  revision: number
  doc: Document | null
  /** The document as it was before what is being dragged or typed now. */
  base: Document | null
  /** The last document that the server has kept. */
  kept: Document | null
  undoLabel: string
  redoLabel: string
  save: SaveState
  /** Edits that the server has not kept yet. */
  unsaved: number
  /** Unsaved edits would survive a reload. */
  safe: boolean
  /** Why the server cannot keep anything; empty when it can, or does not answer. */
  trouble: string
  savedAt: number
  fault: Refusal | null
  conflict: SceneState | null
  open: (id: string) => Promise<void>
  close: () => void
  /** Shows a change without keeping it yet, as while dragging. */
  preview: (change: (d: Document) => void) => void
  /** Forgets what was previewed. */
  cancel: () => void
  /** Keeps what is shown as one step of the history. */
  commit: (label: string) => void
  edit: (label: string, change: (d: Document) => void) => void
  undo: () => void
  redo: () => void
  goTo: (seq: number) => void
  /** Drops edits that were refused and shows the last document that was right. */
  putBack: () => void
  keepMine: () => void
  takeTheirs: () => void
  /** Makes a scene of its own of what is shown, as when the scene was deleted elsewhere; its id. */
  keepAsNew: () => Promise<string>
}

/** What the server has answered: the picture, its frames and the checks. */
export interface AnswerState {
  connected: boolean
  answer: Answer | null
  meshes: Map<string, MeshData>
  frames: FrameCache<Shot>
  /** The pieces at the play head; the last ones known until those have come. */
  shown: Pieces[]
  /** All that differs from frame to frame, as it is there. */
  shot: Shot
  filled: boolean
  checks: Result[]
  /** seen: frames that the shown results have looked at. looked: how far the check of all frames has come. */
  checked: {
    seen: number
    of: number
    looked: number
    /** Ids of rigs that wait for their simulation. */
    waiting: string[]
  }
  /** How far the simulation is for which frames wait; null when none is under way. */
  simulating: Simulating | null
  /** Gives up the simulation, or goes on with it. */
  stopSimulating: () => void
  goOnSimulating: () => void
  /** Listens to the server about a scene; `moved` is told when another page has kept something of it. */
  connect: (id: string, moved: (revision: number) => void) => void
  disconnect: () => void
  /** Asks for the picture of a document; with fill, for all of its frames and its checks. */
  show: (doc: Document, fill: boolean) => void
}

/** What is chosen, open and being done. */
export interface ChoiceState {
  notice: string
  selected: Selection | null
  /** Ids of other things of the same kind that are chosen with it. */
  also: string[]
  point: number | null
  /** The handle of a point that the arrows move in place of it, while that point is chosen. */
  grip: { point: number; side: Side } | null
  /** The chosen bead of roll of the chosen rig. */
  rollBead: number | null
  openStep: string
  panel: Panel
  shownCheck: string | null
  tool: Tool
  select: (s: Selection | null) => void
  /** Chooses one more thing of the kind that is chosen, or one less. */
  choose: (s: Selection) => void
  say: (notice: string) => void
  /** Draws in the plane of the view, or on a fixture. */
  startDrawing: (over?: string) => void
  startEdges: (fixture: string) => void
  /** Points of a cloth are picked that hold it. */
  startPins: (rig: string) => void
}

export type Bench = DocumentState & AnswerState & ChoiceState
