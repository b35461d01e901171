import { useBuild } from '../shell/buildContext'
import { useVisit } from '../shell/visit'
import { layPhotos } from './dropped'
import './photos.css'

/** The photos that are pinned to something, with the version that they show; one more is taken from here. */
export function Pinned({ address, of, version = '' }: { address: string; of: string; version?: string }) {
  const { state } = useBuild()
  const visit = useVisit()
  const entries = state.document.log.filter((e) => e.pin === address && e.photos.length > 0)
  return (
    <div className="pinned">
      {entries.flatMap((e) =>
        e.photos.map((p) => (
          <button key={`${e.n}-${p}`} type="button" className="quiet" onClick={() => visit(`log.${e.n}`)} title={e.name}>
            <img src={`/api/builds/${state.id}/photos/${p}`} alt={`${of}: ${e.name}`} height={64} loading="lazy" />
            {e.pinned_version !== '' && <span className={version !== '' && !e.pinned_version.endsWith(version) ? 'tight' : 'soft'}>{e.pinned_version}</span>}
          </button>
        )),
      )}
      <button type="button" className="quiet" onClick={() => layPhotos([], address)}>
        photo<span className="visually-hidden"> of {of}</span>
      </button>
    </div>
  )
}
