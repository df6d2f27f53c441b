import type { Document } from '../../core/page.generated'
import { addPath, documentVersion } from '../../core/value'
import { readFigure, sendFigure } from '../rack/ImportFigure'
import { readMesh, standMesh } from '../rack/ImportMesh'
import { useImport } from '../rack/ImportPaths'

/** An empty scene named after a file. */
const blank = (file: string): Document => ({
  bead: documentVersion,
  name: file.replace(/\.[^.]+$/, '').slice(0, 60) || 'Imported',
  fps: 24,
  range: { first: 1, last: 96 },
  paths: [],
  parts: [],
  rigs: [],
})

/** Makes a scene of a file; a file of paths first asks how they lie, in the dialog `input`. */
export function useBring(bring: (scene: Blob) => void, say: (what: string) => void) {
  const { input, load } = useImport(
    (file, paths) => {
      const doc = blank(file)
      for (const p of paths) addPath(doc, p.name, p.shape)
      bring(new Blob([JSON.stringify(doc)]))
    },
    say,
    (file) =>
      void readMesh(file).then(
        (read) => {
          const doc = blank(file.name)
          standMesh(doc, read)
          bring(new Blob([JSON.stringify(doc)]))
        },
        (e: unknown) => say(`${file.name}: ${e instanceof Error ? e.message : String(e)}`),
      ),
  )

  /** A figure goes along a weave in a scene of its own. */
  async function figure(file: File) {
    try {
      const doc = blank(file.name)
      sendFigure(doc, await readFigure(file))
      bring(new Blob([JSON.stringify(doc)]))
    } catch (e) {
      say(`${file.name}: ${e instanceof Error ? e.message : String(e)}`)
    }
  }

  /** A scene document opens as a new scene; of a file of paths it is asked how they lie. */
  function take(file: File) {
    say('')
    if (/\.json$/i.test(file.name)) bring(file)
    else if (/\.bvh$/i.test(file.name)) void figure(file)
    else if (/\.glb$/i.test(file.name)) void glb(file)
    else void load(file, false)
  }

  /** One that Bead wrote is opened as a scene of its parts, materials and paths; others are brought in. */
  async function glb(file: File) {
    const head = new TextDecoder('latin1').decode(await file.slice(0, 300).arrayBuffer())
    if (head.includes('"generator":"Bead"')) bring(file)
    else void load(file, false)
  }
  return { input, take }
}
