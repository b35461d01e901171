import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api } from '../../api/client'
import { PhotoMeasure } from './PhotoMeasure'
import './log.css'

/** A picture of an entry. It is deleted for good, since no undo could bring it back: that is asked first. */
export function Photo({ build, photo, of, entry, deleted }: { build: string; photo: string; of: string; entry: number; deleted: boolean }) {
  const [measuring, measure] = useState(false)
  const client = useQueryClient()
  const [doomed, setDoomed] = useState(false)
  const [wrong, setWrong] = useState('')
  const address = `/api/builds/${build}/photos/${photo}`
  if (deleted) return <span className="soft">A picture that was deleted.</span>
  const remove = async () => {
    setDoomed(false)
    try {
      await api.deletePhoto(build, photo)
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    }
    await client.invalidateQueries({ queryKey: ['photos', build] })
  }
  return (
    <span className="photo">
      <a href={address} target="_blank" rel="noreferrer">
        <img src={address} alt={of} height={84} />
      </a>
      <button type="button" className="quiet" onClick={() => measure(true)}>
        measure<span className="visually-hidden"> {of}</span>
      </button>
      {measuring && <PhotoMeasure address={address} entry={entry} close={() => measure(false)} />}
      {doomed ? (
        <span className="actions">
          <button type="button" onClick={() => void remove()}>
            Delete it for good
          </button>
          <button type="button" onClick={() => setDoomed(false)}>
            Leave it
          </button>
        </span>
      ) : (
        <button type="button" className="quiet" onClick={() => setDoomed(true)}>
          delete<span className="visually-hidden"> {of}</span>
        </button>
      )}
      {wrong && <span role="alert">{wrong}</span>}
    </span>
  )
}
