import { Box3, Vector3 } from 'three'
import { useBench } from '../stores/bench'
import { chosenPath, chosenRig } from '../stores/chosen'
import { stride } from '../core/wire'
import { poseMatrix, worldLine } from './Posed'

/** The box of what is chosen, as it lies in the world at the play head; null where nothing is. */
export function chosenBox(): Box3 | null {
  const bench = useBench.getState()
  const { answer, shot, selected } = bench
  if (!answer) return null
  const box = new Box3()
  const { doc, readout } = answer
  const addLine = (index: number) => {
    const points = worldLine(index)?.points
    if (points) addPoints(box, points, 3)
  }
  const addFixture = (index: number) => {
    const part = readout.parts[readout.fixtures[index]?.part ?? -1]
    const pose = shot.fixtures[index]
    if (!part || !pose) return
    const own = new Box3(new Vector3(...part.min), new Vector3(...part.max))
    box.union(own.applyMatrix4(poseMatrix(pose)))
  }
  const rig = chosenRig(bench)
  if (rig) {
    const body = shot.bodies[rig.index]
    const pieces = shot.pieces.find((p) => p.rig === rig.index)
    if (body) addPoints(box, body.positions, 3)
    else if (pieces) {
      addPoints(box, pieces.transforms, stride)
      const part = readout.parts[doc.parts.findIndex((p) => p.id === rig.rig.part)]
      if (part) box.expandByScalar(new Vector3(...part.max).sub(new Vector3(...part.min)).length() / 2)
    }
    // The pieces of a closed row shift along their path while it stays: it is the steadier measure.
    const path = chosenPath(bench)
    if (!body && path && readout.paths[path.index]?.closed && readout.rigs[rig.index]?.row) addLine(path.index)
  } else if (selected?.kind === 'path') {
    addLine(chosenPath(bench)?.index ?? -1)
  } else if (selected?.kind === 'fixture') {
    addFixture(doc.fixtures?.findIndex((f) => f.id === selected.id) ?? -1)
  } else if (selected?.kind === 'carrier') {
    doc.paths.forEach((p, i) => p.carrier === selected.id && addLine(i))
    doc.fixtures?.forEach((f, i) => f.carrier === selected.id && addFixture(i))
    const pose = shot.carriers[doc.carriers?.findIndex((c) => c.id === selected.id) ?? -1]
    if (pose) box.expandByPoint(new Vector3(pose[0], pose[1], pose[2]))
  }
  return box.isEmpty() ? null : box.expandByScalar(Math.max(box.getSize(new Vector3()).length() * 0.04, 0.02))
}

function addPoints(box: Box3, list: Float32Array, step: number) {
  const v = new Vector3()
  for (let i = 0; i + 2 < list.length; i += step) box.expandByPoint(v.fromArray(list, i))
}
