import { useMemo } from 'react'
import { Box3, Vector3 } from 'three'
import { useBench } from '../stores/bench'

/** The box of the whole scene with room for its pieces, metres. */
export function useBounds(): Box3 {
  const answer = useBench((b) => b.answer)
  const readout = answer?.readout
  return useMemo(() => {
    const box = new Box3()
    if (readout?.reach) {
      box.set(new Vector3(...readout.reach[0]!), new Vector3(...readout.reach[1]!))
    }
    for (const p of answer?.shot.carriers ?? []) box.expandByPoint(new Vector3(p[0], p[1], p[2]))
    if (box.isEmpty()) return new Box3(new Vector3(-2, 0, -2), new Vector3(2, 1, 2))
    const margin = Math.max(
      0,
      ...(readout?.parts ?? [])
        .map((p, i) => ({ ...p, ahead: answer!.doc.parts[i]?.forward?.at(-1) ?? 'z' }))
        .filter((_, i) => !readout!.fixtures.some((f) => f.part === i))
        // Across, not along: a body's or a link's own forward lies along its path.
        .map((p) => Math.max(...p.max.map((m, i) => ('xyz'[i] === p.ahead ? 0 : (m - p.min[i]!) / 2)))),
    )
    return box.expandByScalar(Math.min(margin, box.getSize(new Vector3()).length() / 4))
  }, [answer, readout])
}
