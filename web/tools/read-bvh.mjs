// Reads a BVH as a stranger would: where three's BVHLoader puts the joints at given frames.
// Usage: node read-bvh.mjs FILE FRAME... (frames counted from 0)
import { readFile } from 'node:fs/promises'
import { AnimationMixer, LoopOnce, Vector3 } from 'three'
import { BVHLoader } from 'three/examples/jsm/loaders/BVHLoader.js'

const [file, ...frames] = process.argv.slice(2)
const { skeleton, clip } = new BVHLoader().parse(await readFile(file, 'utf8'))
const root = skeleton.bones[0]
const step = clip.tracks[0].times[1] ?? 0
// Tracks are bound by number: names may hold what bindings do not.
skeleton.bones.forEach((b, i) => {
  for (const t of clip.tracks) {
    for (const end of ['.position', '.quaternion']) if (t.name === b.name + end) t.name = `joint${i}${end}`
  }
})
const names = skeleton.bones.map((b) => b.name)
skeleton.bones.forEach((b, i) => (b.name = `joint${i}`))
const mixer = new AnimationMixer(root)
const action = mixer.clipAction(clip).setLoop(LoopOnce, 1)
action.clampWhenFinished = true
action.play()
console.log(
  JSON.stringify(
    frames.map((f) => {
      mixer.setTime(Number(f) * step)
      root.updateMatrixWorld(true)
      return skeleton.bones.map((b, i) => ({ name: names[i], at: b.getWorldPosition(new Vector3()).toArray() }))
    }),
  ),
)
