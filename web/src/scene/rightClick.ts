import type { ThreeEvent } from '@react-three/fiber'
import type { Kind } from '../core/refs'
import { useBench } from '../stores/bench'
import { openMenu } from '../stores/menu'

/** Pixels that the pointer may move within a click; more is a drag, which pans the view. */
const still = 4

/** Opens the menu of a thing that is clicked with the right button in the view. */
export const rightClick = (kind: Kind, id: string | undefined) => (e: ThreeEvent<MouseEvent>) => {
  if (e.delta > still || !id || useBench.getState().tool.kind !== 'none') return
  e.stopPropagation()
  openMenu({ kind, id }, e.nativeEvent)
}
