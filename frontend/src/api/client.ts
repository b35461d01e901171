import createClient from 'openapi-fetch'
import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query'
import type { paths } from '../../generated/schema'
import { handHere, screenHere, settingsNow } from '../shell/settings'
import type { Act, BoardsOf, BuildChange, BuildState, BuildSummary, Candidate, Catalogue, ChangeLine, CopyLine, DataState, Detail, Echo, EventPreview, GaugesState, Glance, Job, Library, LibraryPart, Looked, NearState, NewBuild, Now, OffAPhoto, PatternFound, PhotoLine, ProblemDetails, Restored, SeenOff, ShopState, TrialState, Understood } from './types'

/** How often another screen's changes are looked for where nothing tells of them. */
const ASK_MS = 1000
const HISTORY_PAGE = 60
const client = createClient<paths>({ baseUrl: window.location.origin })

/** A refusal of the server, with its problem details (RFC 9457). */
export class ApiProblem extends Error {
  readonly problem: ProblemDetails & { change?: ChangeLine }
  constructor(problem: ApiProblem['problem']) {
    super(problem.errors?.length ? problem.errors.map((e) => e.detail).join(' ') : problem.detail)
    this.problem = problem
  }
}

// The library's own reading of the schema turns pairs into lists; the schema's types are what the server sends.
function answer<T>(result: { data?: unknown; error?: unknown }): T {
  if (result.data !== undefined) return result.data as T
  const error = result.error as Partial<ProblemDetails> | undefined
  throw new ApiProblem({ type: '', title: 'No answer', status: 0, detail: 'Pindo does not answer. What you typed is kept here.', errors: [], ...error })
}

const etag = (tag: string) => ({ 'If-Match': `"${tag}"` })
/** Who asks: the name that was given, and this browser, whose own changes its undo takes back. */
const by = () => ({ who: settingsNow().who, hand: handHere(), screen: screenHere })

/** Sends a file as it is; an answer that is no JSON is no answer of Pindo's. */
async function sendFile<T>(to: string, file: Blob, type: string): Promise<T> {
  const result = await fetch(to, { method: 'POST', body: file, headers: { 'Content-Type': type } })
  const body = (await result.json().catch(() => undefined)) as unknown
  return answer<T>(result.ok ? { data: body } : { error: body })
}

/** What is on the screen: the tag of the version that it shows, and the question that is looked at. */
export interface LookedAt {
  readonly shown: string
  readonly question: string
}

export const api = {
  /** Stores acts; answers with what differs from the version that the screen shows, or with the whole build. */
  enter: async (id: string, acts: readonly Act[], why: string, key: string, lapse: boolean, seen: string, looked: LookedAt): Promise<BuildChange | BuildState> =>
    answer<BuildChange | BuildState>(await client.POST('/api/builds/{id}/entries', { params: { path: { id }, query: { ...by(), why: why.slice(0, 200), key, seen, ...looked } }, body: { acts: [...acts], lapse } })),
  trial: async (id: string, acts: Act[], question: string): Promise<TrialState> =>
    answer<TrialState>(await client.POST('/api/builds/{id}/entries', { params: { path: { id }, query: { question, dry: true } }, body: { acts, lapse: true } })),
  near: async (id: string, acts: Act[], question: string): Promise<NearState> =>
    answer<NearState>(await client.POST('/api/builds/{id}/entries', { params: { path: { id }, query: { question, dry: true, near: true } }, body: { acts, lapse: true } })),
  step: async (id: string, tag: string, kind: 'undo' | 'redo', of: number | undefined, looked: LookedAt): Promise<BuildChange | BuildState> =>
    answer<BuildChange | BuildState>(await client.POST('/api/builds/{id}/{kind}', { params: { path: { id, kind }, query: { ...by(), of, ...looked }, header: etag(tag) as never }, headers: etag(tag) })),
  opened: async (id: string, finding: string, acts: Act[]): Promise<Detail> =>
    answer<Detail>(await client.POST('/api/builds/{id}/opened', { params: { path: { id }, query: { finding } }, body: { acts } })),
  pattern: async (file: File, asked: { unit: string; corners: readonly number[]; width: number; width_pm: number; height: number; height_pm: number }): Promise<PatternFound> => {
    const { corners, ...rest } = asked
    const query = new URLSearchParams([...Object.entries(rest).map(([k, v]): [string, string] => [k, String(v)]), ...corners.map((c): [string, string] => ['corners', c.toFixed(2)])])
    return sendFile<PatternFound>(`/api/pattern?${query}`, file, 'application/octet-stream')
  },
  keepPhoto: async (id: string, file: File): Promise<string> => (await sendFile<{ id: string }>(`/api/builds/${id}/photos`, file, file.type || 'application/octet-stream')).id,
  keepSound: async (id: string, file: File): Promise<string> => (await sendFile<{ id: string }>(`/api/builds/${id}/sounds`, file, file.type || 'application/octet-stream')).id,
  deletePhoto: async (id: string, photo: string): Promise<void> => {
    const result = await client.DELETE('/api/builds/{id}/photos/{photo}', { params: { path: { id, photo } } })
    if (result.error) answer(result)
  },
  keepPart: async (build: string, part: number): Promise<LibraryPart> => answer<LibraryPart>(await client.POST('/api/library', { body: { build, part } })),
  mergeParts: async (id: string, gone: string): Promise<LibraryPart> => answer<LibraryPart>(await client.POST('/api/library/merge', { body: { id, gone } })),
  leaveLibrary: async (id: string): Promise<void> => {
    const result = await client.DELETE('/api/library/{id}', { params: { path: { id } } })
    if (result.error) answer(result)
  },
  takeParts: async (file: File): Promise<Library> => sendFile<Library>('/api/library/table', file, 'application/octet-stream'),
  listenTo: async (address: string): Promise<GaugesState> => answer<GaugesState>(await client.POST('/api/gauges', { params: { query: { screen: screenHere } }, body: { address } })),
  letGo: async (address: string): Promise<GaugesState> => answer<GaugesState>(await client.DELETE('/api/gauges/{address}', { params: { path: { address }, query: { screen: screenHere } } })),
  takeHere: async (): Promise<GaugesState> => answer<GaugesState>(await client.POST('/api/gauges/here', { params: { query: { screen: screenHere } } })),
  nameDevice: async (id: string, name: string): Promise<ShopState> => answer<ShopState>(await client.PUT('/api/shop/devices/{id}', { params: { path: { id } }, body: { name } })),
  sendAway: async (id: string): Promise<ShopState> => answer<ShopState>(await client.DELETE('/api/shop/devices/{id}', { params: { path: { id } } })),
  create: async (said: NewBuild): Promise<BuildState> => answer<BuildState>(await client.POST('/api/builds', { params: { query: by() }, body: said })),
  importBuild: async (document: Record<string, unknown>): Promise<BuildState> =>
    answer<BuildState>(await client.POST('/api/builds/import', { params: { query: by() }, body: document })),
  importBundle: async (file: File): Promise<BuildState> => sendFile<BuildState>(`/api/builds/bundle?${new URLSearchParams(by())}`, file, 'application/zip'),
  makeCopy: async (): Promise<CopyLine> => answer<CopyLine>(await client.POST('/api/data/copies')),
  check: async (copy: string): Promise<Looked> => answer<Looked>(await client.POST('/api/data/check', { params: { query: { copy } } })),
  restore: async (name: string): Promise<Restored> => answer<Restored>(await client.POST('/api/data/copies/{name}/restore', { params: { path: { name } } })),
  restoreFile: async (file: File): Promise<Restored> => sendFile<Restored>('/api/data/restored', file, 'application/octet-stream'),
  remove: async (id: string, tag: string): Promise<void> => {
    const result = await client.DELETE('/api/builds/{id}', { params: { path: { id }, header: etag(tag) as never }, headers: etag(tag) })
    if (result.error) answer(result)
  },
  quantity: async (typed: string, kind: string, unit: string | undefined, dimension: string) =>
    answer<Echo>(await client.GET('/api/quantity', { params: { query: { typed, kind, unit, dimension } } })),
  search: async (kind: string, build: string): Promise<Job> => answer<Job>(await client.POST('/api/jobs', { body: { kind, build } })),
  stopSearch: async (id: number): Promise<Job> => answer<Job>(await client.DELETE('/api/jobs/{id}', { params: { path: { id } } })),
  event: async (id: string, event: string, which: string) =>
    answer<EventPreview>(await client.GET('/api/builds/{id}/events', { params: { path: { id }, query: { event, which } } })),
}

/** How often a search is asked how far it is. */
const JOB_MS = 400
const under = (job: Job | undefined) => job === undefined || job.state === 'waiting' || job.state === 'running'

export const queries = {
  builds: () => queryOptions({ queryKey: ['builds'], queryFn: async () => answer<BuildSummary[]>(await client.GET('/api/builds')) }),
  glance: (id: string, tag: string) =>
    queryOptions({ queryKey: ['glance', id, tag], staleTime: Infinity, queryFn: async () => answer<Glance>(await client.GET('/api/builds/{id}/glance', { params: { path: { id } } })) }),
  build: (id: string) =>
    queryOptions({ queryKey: ['build', id], queryFn: async () => answer<BuildState>(await client.GET('/api/builds/{id}', { params: { path: { id } } })) }),
  boards: (id: string, tag: string, question: string) =>
    queryOptions({
      queryKey: ['boards', id, tag, question],
      staleTime: Infinity,
      gcTime: 60_000,
      queryFn: async () => answer<BoardsOf>(await client.GET('/api/builds/{id}/boards', { params: { path: { id }, query: { question } } })),
    }),
  now: (id: string, asking: boolean) =>
    queryOptions({
      queryKey: ['now', id],
      queryFn: async () => answer<Now>(await client.GET('/api/builds/{id}/now', { params: { path: { id } } })),
      refetchInterval: asking ? ASK_MS : false,
      retry: false,
    }),
  history: (id: string, tag: string) =>
    infiniteQueryOptions({
      queryKey: ['history', id, tag],
      queryFn: async ({ pageParam }) =>
        answer<ChangeLine[]>(await client.GET('/api/builds/{id}/history', { params: { path: { id }, query: { before: pageParam ?? undefined, most: HISTORY_PAGE } } })),
      initialPageParam: null as number | null,
      getNextPageParam: (page: ChangeLine[]) => ((page.at(-1)?.version ?? 1) > 1 ? (page.at(-1)?.version ?? null) : null),
    }),
  photos: (id: string, tag: string) => queryOptions({ queryKey: ['photos', id, tag], queryFn: async () => answer<PhotoLine[]>(await client.GET('/api/builds/{id}/photos', { params: { path: { id } } })) }),
  job: (id: number) =>
    queryOptions({
      queryKey: ['job', id],
      queryFn: async () => answer<Job>(await client.GET('/api/jobs/{id}', { params: { path: { id } } })),
      refetchInterval: ({ state }) => (under(state.data) ? JOB_MS : false),
    }),
  table: (id: string, asked: Readonly<Record<'into' | 'question' | 'start' | 'source' | 'unit', string>>, content: Blob | null, name: string) =>
    queryOptions({
      queryKey: ['table', id, asked, name],
      staleTime: Infinity,
      gcTime: 0,
      retry: false,
      queryFn: async () => {
        const said = Object.fromEntries(Object.entries(asked).filter(([, v]) => v !== ''))
        return sendFile<Understood>(`/api/builds/${id}/table?${new URLSearchParams(said)}`, content ?? new Blob([]), 'application/octet-stream')
      },
    }),
  candidates: (id: string, tag: string, kind: string) =>
    queryOptions({
      queryKey: ['candidates', id, tag, kind],
      staleTime: Infinity,
      queryFn: async () => answer<Candidate[]>(await client.GET('/api/builds/{id}/candidates', { params: { path: { id }, query: { kind } } })),
    }),
  library: () => queryOptions({ queryKey: ['library'], queryFn: async () => answer<Library>(await client.GET('/api/library')) }),
  gauges: () => queryOptions({ queryKey: ['gauges'], refetchInterval: ASK_MS, queryFn: async () => answer<GaugesState>(await client.GET('/api/gauges', { params: { query: { screen: screenHere } } })) }),
  shop: () => queryOptions({ queryKey: ['shop'], queryFn: async () => answer<ShopState>(await client.GET('/api/shop')) }),
  offAPhoto: (asked: OffAPhoto) =>
    queryOptions({ queryKey: ['off a photo', asked], staleTime: Infinity, gcTime: 10_000, retry: false, placeholderData: (before: SeenOff | undefined) => before, queryFn: async () => answer<SeenOff>(await client.POST('/api/off-a-photo', { body: asked })) }),
  data: () => queryOptions({ queryKey: ['data'], queryFn: async () => answer<DataState>(await client.GET('/api/data')) }),
  catalogue: () =>
    queryOptions({ queryKey: ['catalogue'], staleTime: Infinity, queryFn: async () => answer<Catalogue>(await client.GET('/api/catalogue')) }),
}
