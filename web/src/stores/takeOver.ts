import { RequestError, resizePath } from '../api/client'
import type { Document, Path } from '../core/page.generated'
import { useBench } from './bench'

/** Takes over what the server made of the document; what it cannot do is said, and nothing is taken over. */
export async function takeOver(label: string, make: (d: Document) => Promise<Document>): Promise<boolean> {
  const { doc, edit, say } = useBench.getState()
  try {
    const { paths, rigs, tugs, fixtures, carriers, cameras } = await make(doc!)
    if (useBench.getState().doc !== doc) {
      say('The scene was changed meanwhile: press again.')
      return false
    }
    edit(label, (d) => void Object.assign(d, { paths, rigs, tugs, fixtures, carriers, cameras }))
    return true
  } catch (e) {
    if (!(e instanceof RequestError)) throw e
    say(e.message)
    return false
  }
}

/** Makes a path so many times as large, alone or with the rigs on it. */
export const makeLarger = (path: Path, times: number, withRigs: boolean) =>
  takeOver(`make ${path.name}${withRigs ? ' with its rigs' : ''} ${times} times as large`, (d) =>
    resizePath(d, path.id, times, withRigs),
  )
