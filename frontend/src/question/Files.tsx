import { useState, type MouseEvent } from 'react'
import type { QuestionRow } from '../api/types'
import { useBuild } from '../shell/buildContext'
import './question.css'

/** Files that stand in the line under a picture; the rest opens from there. */
const MOST = 4

/** Why a file was refused; empty where it is there. */
async function refusal(href: string): Promise<string> {
  try {
    const answer = await fetch(href)
    if (answer.ok) return ''
    const told = (await answer.json()) as { detail?: string }
    return told.detail ?? 'The file was refused.'
  } catch {
    return 'Pindo does not answer. Nothing was saved.'
  }
}

/** The files that a question gives out. One that is refused says why here, not in a file of its own. */
export function Files({ question }: { question: QuestionRow }) {
  const { state, system } = useBuild()
  const [wrong, setWrong] = useState('')
  const take = async (event: MouseEvent<HTMLAnchorElement>) => {
    const link = event.currentTarget
    // A click of our own goes through: it comes once the file is there.
    if (!event.nativeEvent.isTrusted) return
    event.preventDefault()
    const told = await refusal(link.href)
    setWrong(told)
    if (told === '') link.click()
  }
  const link = ([file, words]: readonly [string, string]) => (
    <a key={file} href={`/api/builds/${state.id}/${file}${file.includes('?') ? '&' : '?'}units=${system}`} download onClick={(e) => void take(e)}>
      {words}
    </a>
  )
  const files = question.files as (readonly [string, string])[]
  const shown = files.length > MOST + 1 ? MOST : files.length
  return (
    <>
      {files.slice(0, shown).map(link)}
      {files.length > shown && (
        <details className="morefiles">
          <summary>more files</summary>
          <div>{files.slice(shown).map(link)}</div>
        </details>
      )}
      {wrong && (
        <span role="alert" className="fouls">
          {wrong}
        </span>
      )}
    </>
  )
}
