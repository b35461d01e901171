import Button from '@mui/material/Button'
import { useInfiniteQuery } from '@tanstack/react-query'
import { queries } from '../api/client'
import { when } from './when'
import './shell.css'

/** Who changed what, from what to what, and why; newest first, page by page to the beginning. */
export function HistoryList({ id, tag }: { id: string; tag: string }) {
  const history = useInfiniteQuery(queries.history(id, tag))
  return (
    <>
      {history.isPending && <p role="status">Reading the journal</p>}
      {history.isError && <p role="alert">{history.error.message}</p>}
      <ol>
        {history.data?.pages.flat().map((line) => (
          <li key={line.version}>
            <div className="soft">
              <span className="mono">{line.version}</span> {when(line.at)} {line.who} · {line.kind}
              {line.target == null ? '' : ` of ${line.target}`}
              {line.why ? ` · ${line.why}` : ''}
            </div>
            {line.words.map((words, i) => (
              <div key={i}>{words}</div>
            ))}
          </li>
        ))}
      </ol>
      {history.hasNextPage && (
        <div className="actions">
          <Button variant="outlined" disabled={history.isFetchingNextPage} onClick={() => void history.fetchNextPage()}>
            Older
          </Button>
        </div>
      )}
    </>
  )
}
