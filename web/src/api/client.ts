import { queryOptions } from '@tanstack/react-query'
import { patchOf } from '../core/patch'
import type {
  About,
  AskBake,
  BakeState,
  Document,
  EdgeChain,
  Fixture,
  HistoryStep,
  Kept,
  LoopAnswer,
  Part,
  PathShape,
  Problem,
  ReadFigure,
  ReadImage,
  ReadMaterial,
  ReadMesh,
  ReadPath,
  SceneCard,
  SceneState,
} from '../core/page.generated'

/** A request that did not go well, with the server's words. */
export class RequestError extends Error {
  constructor(readonly problem: Partial<Problem> & { detail: string; status: number }) {
    super(problem.detail)
  }
}

async function request<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response
  try {
    response = await fetch('/api' + path, init)
  } catch {
    throw new RequestError({
      status: 0,
      code: 'offline',
      detail: 'Bead’s server does not answer. Your work is kept here until it does.',
    })
  }
  if (!response.ok) {
    const problem = (await response.json().catch(() => ({}))) as Partial<Problem>
    throw new RequestError({
      detail: `The server answered with ${response.status}.`,
      ...problem,
      status: response.status,
    })
  }
  if (response.status === 204) return undefined as T
  return (await response.json().catch(() => {
    throw new RequestError({
      status: response.status,
      code: 'unreadable',
      detail: 'What the server sent is not understood. Is another program behind this address?',
    })
  })) as T
}

const send = <T>(method: string, path: string, body?: unknown) =>
  request<T>(path, {
    method,
    headers: { 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })

export const aboutQuery = queryOptions({
  queryKey: ['about'],
  queryFn: () => request<About>('/about'),
  staleTime: Infinity,
})
export const scenesQuery = queryOptions({ queryKey: ['scenes'], queryFn: () => request<SceneCard[]>('/scenes') })
export const historyQuery = (id: string, revision: number) =>
  queryOptions({ queryKey: ['history', id, revision], queryFn: () => request<HistoryStep[]>(`/scenes/${id}/history`) })

export const getScene = (id: string) => request<SceneState>(`/scenes/${id}`)
export const createScene = (begin: { starter: string; answers?: Record<string, string> }) =>
  send<SceneState>('POST', '/scenes', begin)
/** Sends a document or paths as if a file had been chosen: one route takes all. */
export const takeDocument = (doc: Blob) => request<SceneState>('/scenes/document', { method: 'POST', body: doc })
/** Keeps an edit: its changes to base, or the whole document where base is not known or does not fit. */
export async function saveScene(
  id: string,
  revision: number,
  label: string,
  doc: Document,
  base: Document | undefined,
): Promise<Kept> {
  const patch = base && patchOf(base, doc)
  if (patch) {
    try {
      return await send<Kept>('PATCH', `/scenes/${id}`, { revision, label, patch })
    } catch (e) {
      if (!(e instanceof RequestError) || e.problem.code !== 'patch') throw e
    }
  }
  return send<SceneState>('PUT', `/scenes/${id}`, { revision, label, doc })
}
export const renameScene = (id: string, revision: number, name: string) =>
  send<Kept>('PATCH', `/scenes/${id}`, {
    revision,
    label: `rename the scene ${name}`.slice(0, 200),
    patch: [{ op: 'add', path: '/name', value: name }],
  })
export const copyScene = (id: string) => send<SceneState>('POST', `/scenes/${id}/copy`)
/** A new scene that begins as a kept one does. */
export const beginScene = (id: string) => send<SceneState>('POST', `/scenes/${id}/copy?begin=true`)
export const keepScene = (id: string, beginning: boolean) => send<void>('PUT', `/scenes/${id}/beginning`, { beginning })
export const deleteScene = (id: string) => send<void>('DELETE', `/scenes/${id}`)
export const undoScene = (id: string, revision: number) => send<SceneState>('POST', `/scenes/${id}/undo`, { revision })
export const redoScene = (id: string, revision: number) => send<SceneState>('POST', `/scenes/${id}/redo`, { revision })
export const goToStep = (id: string, revision: number, seq: number) =>
  send<SceneState>('POST', `/scenes/${id}/history/${seq}`, { revision })

export const readPathFile = (file: File, smooth: boolean) =>
  request<ReadPath[]>(`/paths/read?file=${encodeURIComponent(file.name)}&smooth=${smooth}`, {
    method: 'POST',
    body: file,
  })
export const toPoints = (doc: Document, path: string) => send<ReadPath>('POST', '/paths/points', { doc, path })
export const insertPoint = (shape: PathShape, after: number) =>
  send<ReadPath>('POST', '/paths/insert', { shape, after })

export const imageAddress = (asset: string) => `/api/images/${asset}`

export const sendImage = (file: File) =>
  request<ReadImage>('/images?file=' + encodeURIComponent(file.name), { method: 'POST', body: file })

export const readMaterialsFile = (file: File) =>
  request<ReadMaterial[]>('/materials/read?file=' + encodeURIComponent(file.name), { method: 'POST', body: file })

export const readMeshFile = (file: File) =>
  request<ReadMesh>(`/meshes?file=${encodeURIComponent(file.name)}`, { method: 'POST', body: file })
export const readFigureFile = (file: File) =>
  request<ReadFigure>(`/figures?file=${encodeURIComponent(file.name)}`, { method: 'POST', body: file })
export const wireQuery = (part: Part) =>
  queryOptions({
    queryKey: ['wire', part.shape],
    queryFn: () => send<number[]>('POST', '/meshes/wire', { part }),
    staleTime: Infinity,
  })
export type EdgeWay = 'loop' | 'crease' | 'boundary' | 'middle'
export const followEdges = (part: Part, fixture: Fixture, at: [number, number, number], way: EdgeWay) =>
  send<EdgeChain>('POST', '/meshes/edges', { part, fixture, at, way })

/** The order of a belt round the outside of its wheels. */
export const beltOrder = (shape: PathShape) => send<number[]>('POST', '/belts/order', { shape })

export const startBake = (asks: Omit<AskBake, 'doc'> & { doc?: Document }) => send<BakeState>('POST', '/bakes', asks)
export const listBakes = () => request<BakeState[]>('/bakes')
export const bakeState = (id: string) => request<BakeState>(`/bakes/${id}`)
export const cancelBake = (id: string) => send<void>('DELETE', `/bakes/${id}`)
export const bakeFileUrl = (id: string) => `/api/bakes/${id}/file`
export const bakeNoteUrl = (id: string) => `/api/bakes/${id}/note`

/** Lets the browser save what lies at an address. */
export function fetchAddress(url: string) {
  const a = document.createElement('a')
  a.href = url
  a.download = ''
  a.click()
}
export const pictureUrl = (id: string, revision: number) => `/api/scenes/${id}/picture.svg?revision=${revision}`
export const documentUrl = (id: string) => `/api/scenes/${id}/document`

export const solveLoop = (doc: Document, rig: string, frames: number, speed: number) =>
  send<LoopAnswer>('POST', '/loops', { doc, rig, frames, speed })
/** A document of an older version in the present one. */
export const presentDocument = (doc: unknown) => send<Document>('POST', '/documents', { doc })
/** The document with a path so many times as large, about its middle. */
export const resizePath = (doc: Document, path: string, by: number, withRigs: boolean) =>
  send<Document>('POST', withRigs ? '/paths/resize-with-rigs' : '/paths/resize', { doc, path, by })
/** The document with the mirror image of a path and of what rides on it, so many metres apart; 0: as it lies. */
export const otherSide = (doc: Document, path: string, by: number) =>
  send<Document>('POST', '/paths/other-side', { doc, path, by })
/** The document with a thing riding on another carrier, in the same place. */
export const moveToCarrier = (
  doc: Document,
  kind: 'carrier' | 'path' | 'fixture',
  id: string,
  carrier: string,
  frame: number,
) => send<Document>('POST', '/carriers/move', { doc, kind, id, carrier, frame })

/** Pictures of a document at frames that may lie between two, one after another as the server makes them. */
export async function* pictures(
  doc: Document,
  frames: number[],
  signal: AbortSignal,
): AsyncGenerator<ArrayBuffer, void, void> {
  const response = await fetch('/api/pictures', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ doc, frames }),
    signal,
  })
  if (!response.ok || !response.body) {
    const problem = (await response.json().catch(() => ({}))) as Partial<Problem>
    throw new RequestError({
      detail: `The server answered with ${response.status}.`,
      ...problem,
      status: response.status,
    })
  }
  const reader = response.body.getReader()
  let held = new Uint8Array()
  for (;;) {
    const { done, value } = await reader.read()
    if (value) {
      const more = new Uint8Array(held.length + value.length)
      more.set(held)
      more.set(value, held.length)
      held = more
    }
    while (held.length >= 8) {
      const bytes = new DataView(held.buffer, held.byteOffset).getUint32(0, true)
      if (held.length < 8 + bytes) break
      yield held.slice(8, 8 + bytes).buffer
      held = held.slice(8 + bytes)
    }
    if (done) return
  }
}
