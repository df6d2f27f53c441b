// Reads how things look as a stranger would, through three's loaders: of each mesh its materials with colour as
// light, roughness, metalness, opacity, whether an image covers it, and by how much texture places are multiplied
// times the span of the texture coordinates; of each camera its lens and the place where it stands.
// Usage: node read-looks.mjs FILE.glb | FILE.usda | FILE.usdz | FILE.obj FILE.mtl
import './browserless.mjs'
import { readFile } from 'node:fs/promises'
import { Box2, LoadingManager, Vector2, Vector3 } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js'
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js'
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js'

const [file, more] = process.argv.slice(2)
const data = await readFile(file)
let scene
let cameras = []
if (file.endsWith('.glb')) {
  const gltf = await new GLTFLoader().parseAsync(
    data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
    '',
  )
  scene = gltf.scene
  cameras = gltf.cameras
} else if (file.endsWith('.usdz'))
  scene = new USDLoader().parse(data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength))
else if (file.endsWith('.usda')) scene = new USDLoader().parse(data.toString())
else {
  const looks = new MTLLoader(new LoadingManager()).parse((await readFile(more)).toString(), '')
  looks.preload()
  scene = new OBJLoader().setMaterials(looks).parse(data.toString())
}
scene.updateMatrixWorld(true)
const meshes = []
scene.traverse((o) => {
  if (!o.isMesh) return
  const uv = o.geometry.attributes.uv
  const box = new Box2()
  for (let i = 0; i < (uv?.count ?? 0); i++) box.expandByPoint(new Vector2(uv.getX(i), uv.getY(i)))
  const span = uv ? box.getSize(new Vector2()).toArray() : [0, 0]
  meshes.push({
    name: o.name,
    parent: o.parent?.name ?? '',
    // Places with where they lie on an image, of a few vertices.
    corners: Array.from({ length: uv ? Math.min(uv.count, 4) : 0 }, (_, i) => [
      ...new Vector3().fromBufferAttribute(o.geometry.attributes.position, i).toArray(),
      uv.getX(i),
      uv.getY(i),
    ]),
    materials: [o.material].flat().map((m) => ({
      name: m.name,
      colour: m.color.toArray(),
      roughness: m.roughness ?? -1,
      metalness: m.metalness ?? -1,
      opacity: m.transparent ? m.opacity : 1,
      images: ['map', 'normalMap', 'roughnessMap'].filter((k) => m[k]).length,
      tiles: span.map((v, i) => v * (m.map?.repeat?.toArray()[i] ?? 1)),
    })),
  })
})
console.log(
  JSON.stringify({
    meshes,
    cameras: cameras.map((c) => ({
      name: c.name,
      fov: c.fov,
      aspect: c.aspect,
      at: c.getWorldPosition(new Vector3()).toArray(),
      ahead: c.getWorldDirection(new Vector3()).toArray(),
    })),
  }),
)
process.exit(0)
