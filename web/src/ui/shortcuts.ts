import { useEffect } from 'react'
import { finishDrawing, giveUpDrawing } from '../scene/DrawTool'
import { nudge, takeNextGrip } from '../scene/nudge'
import { slotsOf } from '../core/slots'
import { sourceOf, toggledKey } from '../core/value'
import { keyAll } from './recipe/CarrierFields'
import { useBench } from '../stores/bench'
import { chosenRig, chosenThings } from '../stores/chosen'
import { useClock } from '../stores/clock'
import { usePrefs, useView, type Foldable } from '../stores/prefs'
import { takeStill } from '../stores/still'
import { copyThing, duplicateThings, pasteThing, removePoint, removeThings, renameThing } from './things'

/** The keys of the bench, as the sheet shows them. */
export const shortcutList: [string, string][] = [
  ['Space', 'Play or pause'],
  ['← →', 'One frame back or on; with Shift ten'],
  ['← → ↑ ↓', 'With a point or wheel chosen: moves it in the plane you face; with Shift ten times as far'],
  ['O', 'With a point of a spline chosen: the arrows move its handle ahead, then the one behind, then the point again'],
  ['Home, End', 'First or last frame'],
  ['1 2 3 4', 'Corner, Side, Ahead, Above'],
  ['A', 'Alongside: look at what is chosen and go along with it'],
  ['P', 'With or without perspective'],
  ['T', 'The trail of what is chosen, a dot a frame'],
  ['H', 'Ghosts: the chosen rig some frames before and after'],
  ['[ ] L', 'Fold the recipe, the checks or the length strip away'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z', 'Redo'],
  ['B', 'Set or remove a key at the play head: of travel, or of all values of a carrier or handle'],
  ['S', 'Still: save the view as a picture'],
  ['G', 'Open or close the graph'],
  ['Enter', 'Drawing: leave the path open and finish'],
  ['Backspace', 'Drawing: take back the last point'],
  ['Alt', 'Drawing: held, points do not go to the grid, points and hubs near them'],
]

/** The keys for what is chosen, and for the page. */
export const thingKeys: [string, string][] = [
  ['N', 'Go near what is chosen'],
  ['Ctrl or Shift click', 'In the rack: choose several of a kind, to edit them together'],
  ['F2', 'Rename what is chosen; double-click it in the rack does the same'],
  ['Ctrl D', 'Duplicate what is chosen'],
  ['Ctrl C, Ctrl V', 'Copy what is chosen with all it needs; paste it here, or into another scene or window'],
  ['Delete', 'Delete the chosen roll key, point or wheel, else what is chosen'],
  ['Esc', 'Give up what is under way, or back to the recipe'],
  ['?', 'This sheet'],
]

export const gestureList: [string, string][] = [
  ['Drag a piece', 'Pulls the train along its path'],
  ['Drag a bead in the length strip', 'The same, laid straight'],
  ['Drag a point or handle', 'Moves it in the plane you face; with Shift straight up'],
  [
    'Drag a knob of a hoop',
    'The middle moves the thing, the nose turns it, the top lifts it, the cube makes it larger or smaller',
  ],
  ['Drag the start mark of a loop', 'Moves where it starts, in the view or the strip'],
  ['Double-click the roll line', 'Adds a roll key; drag it, or type its numbers in Facing'],
  ['Drag empty ground', 'Orbits'],
  ['Right-drag', 'Pans'],
  ['Right-click a thing', 'Its menu, in the view, the rack and the strips'],
  ['Scroll', 'Zooms'],
  ['Drag a field’s name', 'Changes its number; with Shift finely'],
  ['Type in a field', '62*190 mm, 1/4 in, (3+5) cm'],
]

/** What can be folded away, with its key. */
export const foldables: [Foldable, string, string][] = [
  ['recipe', 'Rack and recipe', '['],
  ['checks', 'Checks', ']'],
  ['strip', 'Length strip', 'L'],
]

const views = ['corner', 'side', 'ahead', 'above'] as const

function toggleTravelKey() {
  const bench = useBench.getState()
  const chosen = chosenRig(bench)
  const pieces = bench.shown.find((p) => p.rig === chosen?.index)
  if (!chosen) {
    const slots = bench.doc ? slotsOf(bench.doc, bench.selected?.kind, bench.selected?.id) : []
    if (slots.length > 0) keyAll(slots, 'key what is chosen')
    return
  }
  if (!pieces) return
  if (!['set', 'keys'].includes(sourceOf(chosen.rig.travel))) {
    bench.say('Travel is driven: let it come from keys first.')
    return
  }
  const [travel, label] = toggledKey(chosen.rig.travel, useClock.getState().frame, pieces.travel, 'travel')
  bench.edit(label, (d) => void (d.rigs[chosen.index]!.travel = travel))
}

/** Takes a bead of roll of the chosen rig out. */
export function takeOutRoll(bead: number) {
  const bench = useBench.getState()
  const chosen = chosenRig(bench)
  if (!chosen?.rig.facing.rollAt?.[bead]) return
  useBench.setState({ rollBead: null })
  bench.edit('remove a roll key', (d) => {
    const f = d.rigs[chosen.index]!.facing
    f.rollAt!.splice(bead, 1)
    if (f.rollAt!.length === 0) delete f.rollAt
  })
}

export function useShortcuts(toggleSheet: () => void) {
  useEffect(() => {
    function onKey(e: KeyboardEvent) {
      const target = e.target as HTMLElement
      if (target.closest('[role="dialog"], [role="menu"], [role="listbox"]')) return
      if (target instanceof HTMLInputElement && target.type !== 'checkbox') return
      const bench = useBench.getState()
      const clock = useClock.getState()
      const chosen = bench.selected
      const drawing = bench.tool.kind === 'draw'
      const ctrl = e.ctrlKey || e.metaKey
      const key = e.key.toLowerCase()
      if (ctrl && key === 'z') (e.shiftKey ? bench.redo : bench.undo)()
      else if (ctrl && key === 'y') bench.redo()
      else if (ctrl && key === 'd' && chosen) duplicateThings()
      else if (ctrl && key === 'c' && chosen && !String(window.getSelection())) copyThing(chosen)
      else if (ctrl && key === 'v') pasteThing()
      else if (ctrl || e.altKey) return
      else if (e.key === ' ' && !(target instanceof HTMLButtonElement)) clock.toggle()
      else if (e.key.startsWith('Arrow') && bench.point !== null && !drawing) nudge(e.key, e.shiftKey)
      else if (e.key === 'ArrowLeft') clock.step(e.shiftKey ? -10 : -1)
      else if (e.key === 'ArrowRight') clock.step(e.shiftKey ? 10 : 1)
      else if (e.key === 'Home') clock.goTo(clock.first)
      else if (e.key === 'End') clock.goTo(clock.last)
      else if (key === 'b') toggleTravelKey()
      else if (key === 'a') useView.getState().toggleAlongside()
      else if (key === 'p') useView.getState().toggleFlat()
      else if (key === 't') useView.setState((v) => ({ trail: !v.trail }))
      else if (key === 'h') useView.setState((v) => ({ ghosts: !v.ghosts }))
      else if (key === 's') takeStill()
      else if (key === 'o') takeNextGrip()
      else if (key === 'g') usePrefs.getState().toggleGraph()
      else if (/^[1-4]$/.test(e.key)) useView.getState().look(views[Number(e.key) - 1]!)
      else if (foldables.some(([, , k]) => k === e.key.toUpperCase()))
        usePrefs.getState().fold(foldables.find(([, , k]) => k === e.key.toUpperCase())![0])
      else if (e.key === '?') toggleSheet()
      else if (e.key === 'Enter' && drawing) finishDrawing(false)
      else if (e.key === 'Backspace' && bench.tool.kind === 'draw') {
        useBench.setState({ tool: { ...bench.tool, points: bench.tool.points.slice(0, -1) } })
      } else if ((e.key === 'Delete' || e.key === 'Backspace') && bench.rollBead !== null) {
        takeOutRoll(bench.rollBead)
      } else if (e.key === 'Delete' && chosen && bench.tool.kind === 'none') {
        if (!removePoint()) removeThings(chosenThings())
      } else if (e.key === 'F2' && chosen) renameThing(chosen)
      else if (key === 'n') useView.getState().lookNear()
      else if (e.key === 'Escape') {
        if (drawing) giveUpDrawing()
        else if (bench.tool.kind !== 'none') useBench.setState({ tool: { kind: 'none' } })
        else if (bench.panel !== 'recipe') useBench.setState({ panel: 'recipe', shownCheck: null })
        else useBench.setState({ point: null })
      } else return
      e.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [toggleSheet])
}
