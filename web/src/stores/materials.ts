import type { Material } from '../core/page.generated'
import { useBench } from './bench'

let known: Material[] | undefined
let words = ''

/** The materials of the readout; the same list while they say the same. */
export const useMaterials = () =>
  useBench((b) => {
    const now = b.answer?.readout.materials
    if (now && now !== known) {
      const said = JSON.stringify(now)
      if (said !== words) [known, words] = [now, said]
    }
    return now && known
  })
