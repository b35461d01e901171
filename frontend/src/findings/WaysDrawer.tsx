import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, queries } from '../api/client'
import type { Job } from '../api/types'
import { useBuild } from '../shell/buildContext'
import { openFinding } from '../shell/looked'
import { VerdictGlyph } from './VerdictGlyph'
import { Way } from './Way'

const KIND = 'ways out'

/** How far the search is, in words. */
function words(job: Job): string {
  if (job.state === 'waiting') return 'waits for its turn'
  if (job.state === 'running') return job.total ? `${job.done} of ${job.total}` : 'begins'
  if (job.state === 'done') return job.total ? `all ${job.total} looked at` : 'nothing fouls and nothing is tight'
  return job.words
}

/** The ways out of everything that fouls or is tight: searched for beside the work, and stopped when nobody wants it. */
export function WaysDrawer({ close }: { close: () => void }) {
  const { state } = useBuild()
  const [id, setId] = useState<number | null>(null)
  const [wrong, setWrong] = useState('')
  const client = useQueryClient()
  const job = useQuery({ ...queries.job(id ?? 0), enabled: id !== null })
  useEffect(() => {
    api
      .search(KIND, state.id)
      .then((asked) => setId(asked.id))
      .catch((error: unknown) => setWrong(error instanceof Error ? error.message : String(error)))
  }, [state.id, state.tag])
  const look = (finding: string) => {
    openFinding(finding)
    close()
  }
  const under = job.data?.state === 'waiting' || job.data?.state === 'running'
  const stop = async () => {
    if (id === null) return
    await api.stopSearch(id)
    await client.invalidateQueries({ queryKey: queries.job(id).queryKey })
  }
  return (
    <Drawer anchor="right" open onClose={close} slotProps={{ paper: { 'aria-label': 'Ways out', role: 'dialog' } }}>
      <div className="history">
        <div className="panelhead">
          <h2>Ways out</h2>
          <span className="soft" role="status">
            {job.data ? words(job.data) : 'begins'}
          </span>
          {under && (
            <Button variant="outlined" onClick={() => void stop()}>
              Stop
            </Button>
          )}
          <Button variant="outlined" onClick={close} autoFocus>
            Close
          </Button>
        </div>
        {wrong && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
        <ul className="plain ways">
          {job.data?.found.map((f) => (
            <li key={f.finding}>
              <button
                type="button"
                className="quiet"
                onClick={() => look(f.finding)}
              >
                <VerdictGlyph verdict={f.verdict as 'fouls' | 'tight'} small /> {f.title}
              </button>
              {f.ways.length === 0 ? (
                <p className="soft">no single size that you may choose clears it alone</p>
              ) : (
                f.ways.map((w) => <Way key={w.address} way={w} then={() => look(f.finding)} />)
              )}
            </li>
          ))}
        </ul>
      </div>
    </Drawer>
  )
}
