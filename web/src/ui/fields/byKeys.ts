import type { KeyboardEvent } from 'react'
import { gridStep } from '../../scene/snap'

/**
 * What a mark that can be dragged needs to be moved by keys as well, and to say what it is: arrows
 * move it a step, with Shift ten.
 */
export function byKeys({
  label,
  value,
  says,
  step,
}: {
  label: string
  value: number
  /** The value as it is read out. */
  says: string
  /** Steps to the right and up, as pressed. */
  step: (right: number, up: number) => void
}) {
  return {
    tabIndex: 0,
    role: 'slider',
    'aria-label': label,
    'aria-valuenow': value,
    'aria-valuetext': says,
    onKeyDown: (e: KeyboardEvent) => {
      const far = e.shiftKey ? 10 : 1
      const by = { ArrowLeft: [-far, 0], ArrowRight: [far, 0], ArrowDown: [0, -far], ArrowUp: [0, far] }[e.key]
      if (!by) return
      e.preventDefault()
      e.stopPropagation()
      step(by[0]!, by[1]!)
    },
  } as const
}

/** A step along a ruler of that length that is about two pixels. */
export const rulerStep = (length: number, pixels: number) => gridStep(length / Math.max(pixels, 1), 2)
