import { getScene, saveScene } from '../api/client'
import { keeper } from '../api/keeper'
import type { SceneState } from '../core/page.generated'
import { SaveQueue, type Unsaved } from '../core/saveQueue'

/** The queues of the scenes that were edited, also of those that are not open any more. */
export const queues = new Map<string, SaveQueue>()

/** The queue of a scene. */
export const queueOf = ({ id, revision, doc }: SceneState) => {
  let q = queues.get(id)
  if (!q || q.idle()) {
    q = new SaveQueue(id, revision, doc, { save: saveScene, get: getScene }, keeper)
    queues.set(id, q)
  }
  return q
}

/** Whether anything here is not on the server yet. */
export const anythingUnsaved = () => [...queues.values()].some((q) => q.told().unsaved > 0)

/** Sends edits again that an earlier visit left unsaved, of scenes that nobody has changed since. */
export async function resumeUnsaved(): Promise<Unsaved[]> {
  const left = await keeper.list().catch(() => [])
  for (const u of left) {
    if (u.alive || queues.has(u.id)) continue
    const s = await getScene(u.id).catch(() => null)
    if (s && s.revision === u.revision && !queues.has(u.id)) queueOf(s).resume(u)
  }
  return left
}
