import type { Kind } from '../core/refs'
import { useBench } from './bench'
import { useView } from './prefs'

/** Chooses a thing and opens its menu where it was right-clicked. */
export function openMenu(
  thing: { kind: Kind; id: string },
  e: { clientX: number; clientY: number; preventDefault: () => void },
) {
  e.preventDefault()
  const { selected, select } = useBench.getState()
  if (selected?.kind !== thing.kind || selected.id !== thing.id) select(thing)
  useView.setState({ menu: { thing, x: e.clientX, y: e.clientY } })
}
