import { useFrame, useThree } from '@react-three/fiber'
import { useRef } from 'react'
import { usePrefs, useView } from '../stores/prefs'

/** Milliseconds a frame beyond which drawing is not smooth: below 20 frames a second. */
const slow = 50

/** So many slow frames in a row make the picture coarser. */
const patience = 8

/**
 * With automatic quality, draws less finely on a machine that is too slow. Only frames in a row are measured, as
 * while the view is orbited; between others the view was waiting for something to draw.
 */
export function QualityMeter() {
  const inARow = useRef(0)
  const element = useThree((s) => s.gl.domElement)
  useFrame((_, delta) => {
    if (usePrefs.getState().quality !== 'automatic' || !element.dataset.moving) {
      inARow.current = 0
      return
    }
    inARow.current = delta * 1000 > slow ? inARow.current + 1 : 0
    if (inARow.current < patience) return
    inARow.current = 0
    useView.getState().coarser()
  })
  return null
}
