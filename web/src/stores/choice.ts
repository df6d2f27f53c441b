import type { StateCreator } from 'zustand'
import type { Bench, ChoiceState } from './benchState'
import { useView } from './prefs'

/** What a scene opens with: nothing chosen, the recipe open. */
export const nothingChosen = {
  notice: '',
  selected: null,
  also: [],
  point: null,
  grip: null,
  rollBead: null,
  openStep: 'spacing',
  panel: 'recipe',
  shownCheck: null,
  tool: { kind: 'none' },
} as const satisfies Partial<ChoiceState>

/** The part of the store that the person sets: what is chosen, open and being done. */
export const choicePart: StateCreator<Bench, [], [], ChoiceState> = (set, get) => ({
  ...nothingChosen,
  select(selected) {
    set({ selected, also: [], point: null, rollBead: null, panel: 'recipe', shownCheck: null })
  },
  choose(s) {
    const { selected, also, select } = get()
    const all = selected ? [selected.id, ...also] : []
    if (selected?.kind !== s.kind || (all.length === 1 && all[0] === s.id)) {
      select(s)
      return
    }
    const [first, ...rest] = all.includes(s.id) ? all.filter((id) => id !== s.id) : [...all, s.id]
    select({ kind: s.kind, id: first! })
    set({ also: rest })
  },
  say(notice) {
    set({ notice })
  },
  startDrawing(over) {
    set({ tool: { kind: 'draw', points: [], view: useView.getState().view, over } })
  },
  startPins: (rig) => set({ tool: { kind: 'pins', rig } }),
  startEdges(fixture) {
    set({ tool: { kind: 'edges', fixture, way: 'loop', at: null, chain: null } })
  },
})
