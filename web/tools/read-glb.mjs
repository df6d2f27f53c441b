// Reads GLB files as a stranger would: the Khronos validator's verdict, and the
// pieces' places at given frames through three's GLTFLoader and AnimationMixer; of bodies with
// joints or morph targets the places of some of their vertices, and the error they state.
// Usage: node read-glb.mjs FILE FPS FRAME... [-- FILE FPS FRAME...] (frames counted from 0); a line of JSON a
// file, without frames of the verdict alone
import { readFile } from 'node:fs/promises'
import validator from 'gltf-validator' // before a browser is made up
import './browserless.mjs'
import { AnimationMixer, LoopOnce, Matrix4, Quaternion, Vector3 } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'

/** Where the instances of a mesh are in the world. */
const instances = (mesh) =>
  Array.from({ length: mesh.count }, (_, i) => {
    const own = new Matrix4()
    mesh.getMatrixAt(i, own)
    return own.premultiply(mesh.matrixWorld)
  })

/** A place as position and rotation. */
function place(matrix) {
  const [p, q] = [new Vector3(), new Quaternion()]
  matrix.decompose(p, q, new Vector3())
  return [...p.toArray(), ...q.toArray()]
}

async function read(file, fps, frames) {
  const data = new Uint8Array(await readFile(file))
  const report = await validator.validateBytes(data)
  const verdict = {
    errors: report.issues.numErrors,
    warnings: report.issues.numWarnings,
    issues: report.issues.messages.slice(0, 5),
  }
  if (frames.length === 0) return console.log(JSON.stringify(verdict))
  const gltf = await new GLTFLoader().parseAsync(
    data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
    '',
  )
  const nodes = []
  const bodies = []
  gltf.scene.traverse((o) => o.isMesh && (o.isSkinnedMesh || o.userData.samples ? bodies : nodes).push(o))
  // In the order of the file's nodes, whichever hangs from which.
  const number = (o) => gltf.parser.associations.get(o)?.nodes ?? (o.parent ? number(o.parent) : 0)
  for (const list of [nodes, bodies]) list.sort((a, b) => number(a) - number(b))
  const looks = 150
  const mixer = new AnimationMixer(gltf.scene)
  for (const clip of gltf.animations) {
    const action = mixer.clipAction(clip).setLoop(LoopOnce, 1)
    action.clampWhenFinished = true // the last frame is the last, not the first again
    action.play()
  }
  const shapes = []
  const at = frames.map((f) => {
    // Just past the key, whose time is in single precision.
    mixer.setTime(Number(f) / Number(fps) + 1e-6)
    gltf.scene.updateMatrixWorld(true)
    shapes.push(
      bodies.map((n) => {
        n.skeleton?.update()
        const count = n.geometry.attributes.position.count
        return Array.from({ length: looks }, (_, i) => {
          const v = Math.floor((i * count) / looks)
          return [v, ...n.localToWorld(n.getVertexPosition(v, new Vector3())).toArray()]
        })
      }),
    )
    return nodes.flatMap((n) => (n.isInstancedMesh ? instances(n) : [n.matrixWorld])).map(place)
  })
  console.log(
    JSON.stringify({
      ...verdict,
      at,
      shapes,
      stated: bodies.map((n) => n.userData.greatestErrorMetres ?? 0),
    }),
  )
}

for (let rest = process.argv.slice(2); rest.length > 0;) {
  const end = rest.indexOf('--') < 0 ? rest.length : rest.indexOf('--')
  const [file, fps, ...frames] = rest.slice(0, end)
  await read(file, fps, frames)
  rest = rest.slice(end + 1)
}
