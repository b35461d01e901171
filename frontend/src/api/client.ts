import createClient from 'openapi-fetch'
import { queryOptions } from '@tanstack/react-query'
import type { paths } from '../../generated/schema'
import { settingsNow } from '../shell/settings'
import type { Act, BuildState, BuildSummary, Catalogue, ChangeLine, Echo, EventPreview, DemoName, Opened, ProblemDetails, Station, TrialState } from './types'

const client = createClient<paths>({ baseUrl: window.location.origin })

/** A refusal of the server, with its problem details (RFC 9457). */
export class ApiProblem extends Error {
  readonly problem: ProblemDetails & { since?: { words?: string[]; who: string; why: string }[]; current_version?: number; your_version?: number }
  constructor(problem: ProblemDetails) {
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

const etag = (version: number) => ({ 'If-Match': `"${version}"` })

export const api = {
  enter: async (id: string, acts: readonly Act[], why: string, key: string, lapse: boolean): Promise<BuildState> =>
    answer<BuildState>(await client.POST('/api/builds/{id}/entries', { params: { path: { id }, query: { why: why.slice(0, 200), who: settingsNow().who, key } }, body: { acts: [...acts], lapse } })),
  trial: async (id: string, acts: Act[], station: Station): Promise<TrialState> =>
    answer<TrialState>(await client.POST('/api/builds/{id}/trial', { params: { path: { id }, query: { station } }, body: { acts } })),
  step: async (id: string, version: number, kind: 'undo' | 'redo'): Promise<BuildState> =>
    answer<BuildState>(await client.POST('/api/builds/{id}/{kind}', { params: { path: { id, kind }, query: { who: settingsNow().who }, header: etag(version) as never }, headers: etag(version) })),
  opened: async (id: string, finding: string, acts: Act[]): Promise<Opened> =>
    answer<Opened>(await client.POST('/api/builds/{id}/opened', { params: { path: { id }, query: { finding } }, body: { acts } })),
  keepPhoto: async (id: string, file: File): Promise<string> => {
    const result = await fetch(`/api/builds/${id}/photos`, { method: 'POST', body: file })
    const body: unknown = await result.json()
    return result.ok ? (body as { id: string }).id : answer({ error: body })
  },
  create: async (name: string, demo: DemoName, vehicle = '', engine = '', gearbox = ''): Promise<BuildState> =>
    answer<BuildState>(await client.POST('/api/builds', { params: { query: { who: settingsNow().who } }, body: { name, demo, vehicle, engine, gearbox } })),
  importBuild: async (document: Record<string, unknown>): Promise<BuildState> =>
    answer<BuildState>(await client.POST('/api/builds/import', { params: { query: { who: settingsNow().who } }, body: document })),
  remove: async (id: string, version: number): Promise<void> => {
    const result = await client.DELETE('/api/builds/{id}', { params: { path: { id }, header: etag(version) as never }, headers: etag(version) })
    if (result.error) answer(result)
  },
  quantity: async (typed: string, kind: string, unit: string | undefined, dimension: string) =>
    answer<Echo>(await client.GET('/api/quantity', { params: { query: { typed, kind, unit, dimension } } })),
  event: async (id: string, event: string, which: string) =>
    answer<EventPreview>(await client.GET('/api/builds/{id}/events', { params: { path: { id }, query: { event, which } } })),
}

export const queries = {
  builds: () => queryOptions({ queryKey: ['builds'], queryFn: async () => answer<BuildSummary[]>(await client.GET('/api/builds')) }),
  build: (id: string) =>
    queryOptions({ queryKey: ['build', id], queryFn: async () => answer<BuildState>(await client.GET('/api/builds/{id}', { params: { path: { id } } })) }),
  history: (id: string, version: number) =>
    queryOptions({
      queryKey: ['history', id, version],
      queryFn: async () => answer<ChangeLine[]>(await client.GET('/api/builds/{id}/history', { params: { path: { id } } })),
    }),
  catalogue: () =>
    queryOptions({ queryKey: ['catalogue'], staleTime: Infinity, queryFn: async () => answer<Catalogue>(await client.GET('/api/catalogue')) }),
}
