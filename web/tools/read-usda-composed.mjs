// Reads USD text as a second stranger would, one that resolves references: where every prim stands in
// the world, and how many corners and points each mesh has.
// Usage: node read-usda-composed.mjs FILE... ; a line of JSON a file
import { readFile } from 'node:fs/promises'

// The reader was built for pages: it is told that this is one.
process.type = 'renderer'
globalThis.window = globalThis
globalThis.document = { currentScript: { src: '' } }
globalThis.location = { href: 'file:///' }
const { default: start } = await import('tinyusdz/tinyusdz.js')
const wasmBinary = await readFile(import.meta.dirname + '/../node_modules/tinyusdz/tinyusdz.wasm')
const native = await start({ wasmBinary })

for (const file of process.argv.slice(2)) {
  const loader = new native.TinyUSDZLoaderNative()
  const done =
    loader.loadAsLayerFromBinary(new Uint8Array(await readFile(file)), 'scene.usda') &&
    (!loader.hasReferences() || loader.composeReferences()) &&
    loader.layerToRenderScene()
  if (!done) throw new Error(`${file}: ${loader.error()}`)
  const placed = {}
  const walk = (o) => {
    placed[o.absPath] = Array.from(o.globalMatrix)
    o.children.forEach(walk)
  }
  for (let i = 0; i < loader.numRootNodes(); i++) walk(loader.getRootNode(i))
  const meshes = {}
  for (let i = 0; i < loader.numMeshes(); i++) {
    const m = loader.getMesh(i)
    meshes[m.absPath] = [m.faceVertexIndices.length, m.points.length / 3]
  }
  console.log(JSON.stringify({ placed, meshes }))
}
