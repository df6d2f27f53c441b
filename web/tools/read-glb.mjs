// Reads GLB files as a stranger would: the Khronos validator's verdict, and the
// pieces' places at given frames through three's GLTFLoader and AnimationMixer.
// Usage: node read-glb.mjs FILE FPS FRAME... (frames counted from 0)
import { readFile } from 'node:fs/promises'
import validator from 'gltf-validator'
import { AnimationMixer, LoopOnce, Quaternion, Vector3 } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'

const [file, fps, ...frames] = process.argv.slice(2)
const data = new Uint8Array(await readFile(file))
const report = await validator.validateBytes(data)
const gltf = await new GLTFLoader().parseAsync(
  data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
  '',
)
const nodes = []
gltf.scene.traverse((o) => o.isMesh && nodes.push(o))
const mixer = new AnimationMixer(gltf.scene)
for (const clip of gltf.animations) {
  const action = mixer.clipAction(clip).setLoop(LoopOnce, 1)
  action.clampWhenFinished = true // the last frame is the last, not the first again
  action.play()
}
const at = frames.map((f) => {
  mixer.setTime(Number(f) / Number(fps))
  gltf.scene.updateMatrixWorld(true)
  return nodes.map((n) => [
    ...n.getWorldPosition(new Vector3()).toArray(),
    ...n.getWorldQuaternion(new Quaternion()).toArray(),
  ])
})
console.log(
  JSON.stringify({
    errors: report.issues.numErrors,
    warnings: report.issues.numWarnings,
    issues: report.issues.messages.slice(0, 5),
    at,
  }),
)
