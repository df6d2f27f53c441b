import { produce } from 'immer'
import { create } from 'zustand'
import { getScene, redoScene, RequestError, saveScene, undoScene, goToStep, type EdgeWay } from '../api/client'
import { LiveChannel } from '../api/live'
import type { Document, EdgeChain, Readout, Refusal, Result, SceneState } from '../api/page.generated'
import { listOf, type Kind } from '../core/remove'
import { emptyShot, type MeshData, type Message, type PathLine, type Pieces, type Shot } from '../core/wire'
import { useClock } from './clock'
import { useView, type ViewName } from './prefs'

export type { Kind }
export interface Selection {
  kind: Kind
  id: string
}
export type SaveState = 'saved' | 'saving' | 'offline' | 'refused'
export type Panel = 'recipe' | 'check' | 'deliver' | 'ground'

/** What the person is doing in the view besides looking. */
export type Tool =
  | { kind: 'none' }
  /** Points are set by clicking in the plane of a view, or on a fixture. */
  | { kind: 'draw'; points: [number, number, number][]; view: ViewName; over?: string }
  /** An edge of a fixture is pointed at; the chain that goes on from it is shown. */
  | { kind: 'edges'; fixture: string; way: EdgeWay; at: [number, number, number] | null; chain: EdgeChain | null }

/** The picture that the server made of the newest edit it has answered. */
export interface Answer {
  readout: Readout
  /** The paths' drawings in their own spaces; those that are deformed as in this frame. */
  paths: PathLine[]
  /** The frame that came with it. */
  shot: Shot
  /** The document that this is the picture of. */
  doc: Document
}

interface Bench {
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
  savedAt: number
  connected: boolean
  answer: Answer | null
  meshes: Map<string, MeshData>
  frames: Map<number, Shot>
  /** The pieces at the play head; the last ones known until those have come. */
  shown: Pieces[]
  /** All that differs from frame to frame, as it is there. */
  shot: Shot
  filled: boolean
  checks: Result[]
  fault: Refusal | null
  conflict: SceneState | null
  notice: string
  selected: Selection | null
  point: number | null
  /** The chosen bead of roll of the chosen rig. */
  rollBead: number | null
  openStep: string
  panel: Panel
  shownCheck: string | null
  tool: Tool
  open: (id: string) => Promise<void>
  close: () => void
  select: (s: Selection | null) => void
  /** Shows a change without keeping it yet, as while dragging. */
  preview: (change: (d: Document) => void) => void
  /** Forgets what was previewed. */
  cancel: () => void
  /** Keeps what is shown as one step of the history. */
  commit: (label: string) => void
  edit: (label: string, change: (d: Document) => void) => void
  undo: () => Promise<void>
  redo: () => Promise<void>
  goTo: (seq: number) => Promise<void>
  /** Drops edits that were refused and shows the last document that was right. */
  putBack: () => void
  keepMine: () => void
  takeTheirs: () => void
  say: (notice: string) => void
  /** Draws in the plane of the view, or on a fixture. */
  startDrawing: (over?: string) => void
  startEdges: (fixture: string) => void
}

const noShot: Shot = emptyShot()

let live: LiveChannel | null = null
let saving: Promise<void> = Promise.resolve()
let pending: { doc: Document; label: string } | null = null
let retry: ReturnType<typeof setTimeout> | undefined

const frame = () => useClock.getState().frame

export const useBench = create<Bench>()((set, get) => {
  function receive(m: Message, doc: Document) {
    switch (m.kind) {
      case 'scene': {
        const meshes = m.meshes.size > 0 ? new Map([...get().meshes, ...m.meshes]) : get().meshes
        set({
          answer: { readout: m.readout, paths: m.shot.lines, doc, shot: m.shot },
          meshes,
          frames: new Map([[m.frame, m.shot]]),
          filled: false,
          fault: null,
          // What could not be shown was only passed through, as while dragging.
          ...(get().save === 'refused' && !get().conflict && !pending ? { save: 'saved' as const } : {}),
        })
        refresh()
        if (m.frame !== frame()) live?.look(frame())
        break
      }
      case 'frame':
        get().frames.set(m.frame, m.shot) // in place: a frame a message must not copy the map
        refresh()
        break
      case 'checks':
        set({ checks: m.checks.results ?? [] })
        break
      case 'fault':
        set({ fault: m.fault, save: 'refused' })
        break
      case 'filled':
        set({ filled: true })
    }
  }

  function show(doc: Document, fill: boolean) {
    live?.edit(doc, frame(), fill)
  }

  function adopt(s: SceneState) {
    set({
      revision: s.revision,
      doc: s.doc,
      base: s.doc,
      kept: s.doc,
      undoLabel: s.undo,
      redoLabel: s.redo,
      save: 'saved',
      savedAt: Date.now(),
      conflict: null,
    })
    const first = s.doc.rigs[0]
    const { selected } = get()
    if (!selected || !listOf({ ...s.doc }, selected.kind).some((x) => x.id === selected.id)) {
      const path = s.doc.paths[0]
      set({
        selected: first ? { kind: 'rig', id: first.id } : path ? { kind: 'path', id: path.id } : null,
        point: null,
      })
    }
    useClock.getState().setRange(s.doc.range.first, s.doc.range.last, s.doc.fps)
    show(s.doc, true)
  }

  /** Saves what waits to be saved, one after another. */
  function drain(): Promise<void> {
    saving = saving.then(async () => {
      while (pending) {
        const { doc, label } = pending
        pending = null
        set({ save: 'saving' })
        const id = get().id
        try {
          const s = await saveScene(id, get().revision, label, doc)
          if (get().id !== id) return
          set({
            revision: s.revision,
            kept: doc,
            undoLabel: s.undo,
            redoLabel: s.redo,
            save: pending ? 'saving' : 'saved',
            savedAt: Date.now(),
          })
        } catch (e) {
          if (get().id !== id) return
          const problem = e instanceof RequestError ? e.problem : null
          if (problem?.code === 'conflict' && problem.current) {
            if (JSON.stringify(problem.current.doc) === JSON.stringify(doc)) {
              // Our own: the server kept it and was cut off before it could say so.
              set({ revision: problem.current.revision, save: 'saved', savedAt: Date.now() })
              continue
            }
            set({ conflict: problem.current, save: 'refused' })
            return
          }
          if (problem?.status === 422) {
            set({ save: 'refused', fault: { detail: problem.detail, faults: problem.faults ?? [] } })
            return
          }
          // Not lost: it stays here and is sent again.
          pending ??= { doc, label }
          set({ save: 'offline' })
          clearTimeout(retry)
          retry = setTimeout(() => void drain(), 1000)
          return
        }
      }
    })
    return saving
  }

  async function step(call: (id: string, revision: number) => Promise<SceneState>) {
    get().cancel()
    await drain()
    if (get().save === 'refused' && !get().conflict) {
      get().putBack() // what was refused was never kept: that is the step back
      return
    }
    if (pending || get().conflict) return
    try {
      adopt(await call(get().id, get().revision))
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      if (e.problem.code === 'conflict' && e.problem.current) set({ conflict: e.problem.current })
      else if (e.problem.code !== 'step') get().say(e.message)
    }
  }

  return {
    id: '',
    revision: 0,
    doc: null,
    base: null,
    kept: null,
    undoLabel: '',
    redoLabel: '',
    save: 'saved',
    savedAt: 0,
    connected: false,
    answer: null,
    meshes: new Map(),
    frames: new Map(),
    shown: [],
    shot: noShot,
    filled: false,
    checks: [],
    fault: null,
    conflict: null,
    notice: '',
    selected: null,
    point: null,
    rollBead: null,
    openStep: 'spacing',
    panel: 'recipe',
    shownCheck: null,
    tool: { kind: 'none' },

    async open(id) {
      get().close()
      useView.setState({ alongside: false })
      set({
        id,
        doc: null,
        base: null,
        answer: null,
        frames: new Map(),
        shown: [],
        shot: noShot,
        checks: [],
        fault: null,
        selected: null,
        point: null,
      })
      set({
        panel: 'recipe',
        shownCheck: null,
        tool: { kind: 'none' },
        conflict: null,
        notice: '',
        openStep: 'spacing',
      })
      const s = await getScene(id)
      if (get().id !== id) return
      live = new LiveChannel(id, receive, (connected) => set({ connected }))
      useClock.getState().goTo(s.doc.range.first)
      adopt(s)
    },
    close() {
      live?.close()
      live = null
      useClock.getState().pause()
      set({ id: '', doc: null, meshes: new Map() })
    },
    select(selected) {
      set({ selected, point: null, rollBead: null, panel: 'recipe', shownCheck: null })
    },
    preview(change) {
      const { doc } = get()
      if (!doc) return
      const next = produce(doc, change)
      if (next === doc) return
      set({ doc: next })
      show(next, false)
    },
    cancel() {
      const { base, doc } = get()
      if (base === doc || !base) return
      set({ doc: base, fault: null, save: get().save === 'refused' ? 'saved' : get().save })
      show(base, true)
    },
    commit(label) {
      const { doc, base } = get()
      if (!doc || doc === base) return
      set({ base: doc, fault: null })
      useClock.getState().setRange(doc.range.first, doc.range.last, doc.fps)
      show(doc, true)
      pending = { doc, label }
      void drain()
    },
    edit(label, change) {
      const { doc } = get()
      if (!doc) return
      // What was previewed to this very state is still to be kept.
      set({ doc: produce(doc, change) })
      get().commit(label)
    },
    undo: () => step(undoScene),
    redo: () => step(redoScene),
    goTo: (seq) => step((id, revision) => goToStep(id, revision, seq)),
    putBack() {
      const { kept } = get()
      if (!kept) return
      pending = null
      set({ doc: kept, base: kept, fault: null, save: 'saved' })
      useClock.getState().setRange(kept.range.first, kept.range.last, kept.fps)
      show(kept, true)
    },
    keepMine() {
      const { conflict, doc } = get()
      if (!conflict || !doc) return
      set({ revision: conflict.revision, conflict: null })
      pending = { doc, label: 'keep this window’s version' }
      void drain()
    },
    takeTheirs() {
      const { conflict } = get()
      if (conflict) adopt(conflict)
    },
    say(notice) {
      set({ notice })
    },
    startDrawing(over) {
      set({ tool: { kind: 'draw', points: [], view: useView.getState().view, over } })
    },
    startEdges(fixture) {
      set({ tool: { kind: 'edges', fixture, way: 'loop', at: null, chain: null } })
    },
  }
})

/** Shows what has come for the play head. */
function refresh() {
  const { frames, shot } = useBench.getState()
  const now = frames.get(frame())
  if (now && now !== shot) useBench.setState({ shown: now.pieces, shot: now })
}

useClock.subscribe((now, before) => {
  if (now.frame === before.frame) return
  refresh()
  if (!useBench.getState().frames.has(now.frame)) live?.look(now.frame)
})

// Before its first point a drawing takes the plane of the view that is chosen.
useView.subscribe((now, before) => {
  const { tool } = useBench.getState()
  if (now.view !== before.view && tool.kind === 'draw' && tool.points.length === 0 && now.view !== 'free') {
    useBench.setState({ tool: { ...tool, view: now.view } })
  }
})

/** The rig that is chosen, with its place in the document. */
export function chosenRig(b: Pick<Bench, 'doc' | 'selected'>) {
  if (!b.doc || b.selected?.kind !== 'rig') return null
  const index = b.doc.rigs.findIndex((r) => r.id === b.selected!.id)
  return index < 0 ? null : { index, rig: b.doc.rigs[index]! }
}

/** The carrier that is chosen, with its place in the document. */
export function chosenCarrier(b: Pick<Bench, 'doc' | 'selected'>) {
  const index = b.selected?.kind === 'carrier' ? (b.doc?.carriers?.findIndex((c) => c.id === b.selected!.id) ?? -1) : -1
  return index < 0 ? null : { index, carrier: b.doc!.carriers![index]! }
}

/** The path that is worked on: the chosen one, or the chosen rig's. */
export function chosenPath(b: Pick<Bench, 'doc' | 'selected'>) {
  if (!b.doc || !b.selected) return null
  const tug = b.selected.kind === 'tug' ? b.doc.tugs?.find((t) => t.id === b.selected!.id) : undefined
  const id =
    b.selected.kind === 'path'
      ? b.selected.id
      : (tug?.path ?? chosenRig(b)?.rig.path ?? chosenCarrier(b)?.carrier.ride?.path)
  const index = b.doc.paths.findIndex((p) => p.id === id)
  return index < 0 ? null : { index, path: b.doc.paths[index]! }
}
