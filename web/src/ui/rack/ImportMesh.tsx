import { useRef } from 'react'
import { readMeshFile, RequestError } from '../../api/client'
import type { Document, ReadMesh } from '../../core/page.generated'
import { freeId, freeName } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'

/** Stands a part in the scene and returns the fixture's id. */
export function addFixture(d: Document, name: string, part: string): string {
  const list = (d.fixtures ??= [])
  const id = freeId(list, name)
  list.push({ id, name: freeName(list, name), part, at: [0, 0, 0] })
  return id
}

/** A mesh as large as a hill or as small as a grain was made in another unit. */
function guessScale(size: number): number {
  if (size > 100) return 0.001
  return size > 20 ? 0.01 : 1
}

/** Puts a mesh that the server has read into a document, standing; returns the fixture's id. */
export function addMesh(d: Document, file: string, mesh: ReadMesh): string {
  const stem = file.replace(/\.[^.]+$/, '').slice(0, 60) || 'Mesh'
  const name = stem[0]!.toUpperCase() + stem.slice(1)
  const part = freeId(d.parts, `${name} mesh`)
  d.parts.push({
    id: part,
    name: freeName(d.parts, `${name} mesh`),
    shape: { file: { asset: mesh.asset, scale: guessScale(sizeOf(mesh)) } },
    forward: '+z',
    up: '+y',
  })
  return addFixture(d, name, part)
}

const sizeOf = (mesh: ReadMesh) => Math.max(...mesh.max.map((x, i) => x - mesh.min[i]!))

/** Brings a mesh file in as a part that stands in the scene. */
export async function takeMeshFile(file: File) {
  const bench = useBench.getState()
  try {
    const mesh = await readMeshFile(file)
    const size = sizeOf(mesh)
    let id = ''
    bench.edit(`read ${file.name}`, (d) => void (id = addMesh(d, file.name, mesh)))
    bench.select({ kind: 'fixture', id })
    useView.getState().lookSoon()
    bench.say(
      `${file.name}: ${mesh.points} points, ${Number(size.toPrecision(3))} units across. Its scale is a field of the part.`,
    )
  } catch (e) {
    if (!(e instanceof RequestError)) throw e
    bench.say(`${file.name}: ${e.message}`)
  }
}

export function useMeshImport() {
  const pick = useRef<HTMLInputElement>(null)
  const input = (
    <input
      ref={pick}
      type="file"
      accept=".obj,.glb,.gltf"
      hidden
      data-testid="import-mesh"
      onChange={(e) => {
        const file = e.target.files?.[0]
        e.target.value = ''
        if (file) void takeMeshFile(file)
      }}
    />
  )
  return { input, choose: () => pick.current?.click() }
}
