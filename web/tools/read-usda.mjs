// Reads USD text as a stranger would, through three's USDLoader and its parser: the layer's own
// data, where the loader puts every prim when it has one frame, and what prims and points do in given frames.
// Usage: node read-usda.mjs FILE FRAME... (time codes)
import { readFile } from 'node:fs/promises'
import { Quaternion, Vector3 } from 'three'
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js'
import { USDAParser } from 'three/examples/jsm/loaders/usd/USDAParser.js'

const [file, ...frames] = process.argv.slice(2)
const text = await readFile(file, 'utf8')
const specs = new USDAParser().parseData(text).specsByPath
const scene = new USDLoader().parse(text)
scene.updateMatrixWorld(true)

const placed = {}
const walk = (o, path) =>
  o.children.forEach((c) => {
    const own = `${path}/${c.name}`
    placed[own] = [
      ...c.getWorldPosition(new Vector3()).toArray(),
      ...c.getWorldQuaternion(new Quaternion()).toArray(),
      c.getWorldScale(new Vector3()).x,
      c.geometry?.index ? c.geometry.index.count : (c.geometry?.attributes.position?.count ?? 0),
    ]
    walk(c, own)
  })
walk(scene, '')

const value = (spec, frame) => {
  const s = spec?.fields.timeSamples
  return s ? s.values[s.times.indexOf(frame)] : spec?.fields.default
}
const at = frames.map((f) => {
  const out = {}
  for (const [path, spec] of Object.entries(specs)) {
    const [prim, attribute] = path.split('.')
    if (
      ['xformOp:translate', 'xformOp:orient', 'xformOp:scale', 'visibility', 'points', 'normals'].includes(attribute)
    ) {
      out[prim] = { ...out[prim], [attribute]: value(spec, Number(f)) }
    }
  }
  return out
})
console.log(JSON.stringify({ layer: specs['/'].fields, placed, at }))
