import { create } from 'zustand'
import { answerPart } from './answers'
import type { Bench } from './benchState'
import { choicePart } from './choice'
import { documentPart } from './document'
import { useView } from './prefs'
import { anythingUnsaved } from './queues'

export type { Kind } from '../core/remove'
export type { Bench, Selection, Tool } from './benchState'

/** The open scene: its document, what the server has answered and what is chosen. */
export const useBench = create<Bench>()((...of) => ({
  ...documentPart(...of),
  ...answerPart(...of),
  ...choicePart(...of),
}))

// A tab that is closed asks first while something is not on the server.
if (typeof window !== 'undefined') {
  window.addEventListener('beforeunload', (e) => {
    const { doc, base } = useBench.getState()
    if (anythingUnsaved() || doc !== base) e.preventDefault()
  })
}

// Before its first point a drawing takes the plane of the view that is chosen.
useView.subscribe((now, before) => {
  const { tool } = useBench.getState()
  if (now.view !== before.view && tool.kind === 'draw' && tool.points.length === 0 && now.view !== 'free') {
    useBench.setState({ tool: { ...tool, view: now.view } })
  }
})
