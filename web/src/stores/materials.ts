import { useBench } from './bench'

/** The materials of the readout; the same list while they say the same (`steady`). */
export const useMaterials = () => useBench((b) => b.answer?.readout.materials)
