import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { api, queries } from '../../api/client'
import type { Build, Candidate, DimensionRow } from '../../api/types'
import { readingOf, shownUnit } from '../../entry/acts'
import { FigureField } from '../../entry/FigureField'
import { once } from '../../entry/hands'
import { useDesk } from '../../entry/useDesk'
import { VerdictGlyph } from '../../findings/VerdictGlyph'
import { sourceClass } from '../../ledger/source'
import { Pinned } from '../../photos/Pinned'
import { RowsEditor } from '../../rows/RowsEditor'
import { useBuild } from '../../shell/buildContext'
import { openFinding } from '../../shell/looked'
import Library, { onTheShelf, useLibrary } from './Library'
import './survey.css'

const ShelfFace = lazy(() => import('../../faces/FacePanel').then((m) => ({ default: m.ShelfFace })))

type Card = Build['parts'][number]
const NOT_TYPED = ['fitted']
const FOLDED = ['until', 'donor', 'mileage', 'marks', 'keep', 'wait_days', 'needed_by', 'stations', 'refused', 'note']

/** What was paid or is to be paid for a part: lines of money that name it. */
function usePrice(): (card: Card) => string {
  const { state } = useBuild()
  return (card) => {
    const lines = state.document.money.filter((m) => m.part === card.n)
    return lines.map((m) => (m.amount ? `${m.state} ${m.amount}` : 'unpriced')).join(', ')
  }
}

/** One part: what it is, how much is known of it, and the way in. */
function Line({ card, sizes, keep }: { card: Card; sizes: readonly DimensionRow[]; keep: () => void }) {
  const { assessment, state } = useBuild()
  const desk = useDesk()
  const price = usePrice()
  const name = card.name || card.kind || `part ${card.n}`
  const known = card.fitted ? sizes.filter((d) => assessment.quantities[d.key]?.value != null).length : sizes.filter((d) => card.sizes[d.key] !== undefined).length
  const fit = () => desk.try({ field: `parts-${card.n}-fit`, words: `Fit ${name}`, text: 'fitted', was: state.document.parts.find((p) => p.fitted && p.kind === card.kind)?.name ?? '', acts: [{ do: 'fit', part: card.n }] })
  const said = [card.version, card.source && `from ${card.source}`, card.donor && `donor ${card.donor}`, card.wait_days != null && `${card.wait_days} days to wait`, price(card), card.keep && 'kept until its successor is fitted', card.refused && `refused: ${card.refused}`].filter(Boolean)
  return (
    <li className={card.fitted ? 'fittedpart' : ''} data-part={card.n}>
      <span>
        <b>{name}</b> {card.fitted ? 'fitted' : card.kind ? 'on the shelf' : ''} <span className="soft">{card.state}</span>
      </span>
      <span className="mono soft">{sizes.length > 0 ? `${known} of ${sizes.length} sizes` : ''}</span>
      <span className="soft partsaid">{said.join(' · ')}</span>
      <span className="libraryacts">
        {card.kind !== '' && !card.fitted && card.state !== 'gone' && (
          <button type="button" className="plainbutton" onClick={once(fit)}>
            Fit this one<span className="visually-hidden"> {name}</span>
          </button>
        )}
        {card.kind !== '' && (
          <button type="button" className="quiet" onClick={once(keep)}>
            keep in the library<span className="visually-hidden"> {name}</span>
          </button>
        )}
      </span>
    </li>
  )
}

/** How the parts of a kind would do, by what they measure; each is fitted on trial and judged by the build's own questions. */
function WhatFits({ kind }: { kind: string }) {
  const { state } = useBuild()
  const found = useQuery(queries.candidates(state.id, state.tag, kind))
  if (found.isPending) return <p role="status">Trying each of them</p>
  if (found.isError) return <p role="alert">{found.error.message}</p>
  return (
    <ol className="candidates" aria-label={`What fits: ${kind}`}>
      {found.data.map((c) => (
        <OneCandidate key={c.library || c.part} one={c} />
      ))}
    </ol>
  )
}

function OneCandidate({ one }: { one: Candidate }) {
  const { change } = useBuild()
  const shelved = useLibrary().found?.parts.find((p) => p.id === one.library)
  const worst = one.against[0]
  return (
    <li>
      <b>{one.name}</b> {one.library ? 'in the library' : one.fitted ? 'fitted' : one.state}: {one.tally.fouls} foul, {one.tally.unmeasured} unmeasured, {one.tally.tight} tight, {one.tally.goes} go; {one.sizes} of {one.of_sizes} sizes known
      {one.weakest ? `, the weakest ${one.weakest}` : ''}
      {one.wait_days != null ? `; ${one.wait_days} days to wait` : ''}
      {shelved && (
        <button type="button" className="quiet" onClick={once(() => void change([onTheShelf(shelved)], `${one.name} from the library onto the shelf`))}>
          onto the shelf
        </button>
      )}
      {one.refused && <span className="fouls"> refused: {one.refused}</span>}
      {worst && (
        <details>
          <summary>what does not go with it</summary>
          <ul className="plain">
            {one.against.map((a) => (
              <li key={a.id}>
                <VerdictGlyph verdict={a.verdict} small />{' '}
                <button type="button" className="quiet" onClick={() => openFinding(a.id)}>
                  {a.text}
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  )
}

/** The sizes of one part: on its card while it lies on the shelf, in the ledger when it is fitted. */
function Sizes({ card }: { card: Card }) {
  const { catalogue, assessment, system } = useBuild()
  const desk = useDesk()
  const sizes = catalogue.dimensions.filter((d) => d.part === card.kind)
  if (sizes.length === 0) return <p className="soft">{card.kind ? 'The catalogue has no sizes of this kind.' : 'Say what kind of part it is, and its sizes are asked for here.'}</p>
  return (
    <div className="partrows">
      <h3>
        Sizes <span className="soft">{card.fitted ? 'as they stand in the build' : 'its own, kept with it on the shelf'}</span>
      </h3>
      <ul className="plain partsizes">
        {sizes.map((d) => {
          const unit = shownUnit(d, system)
          const own = card.sizes[d.key]?.statements.filter((s) => s.lapsed == null).at(-1)
          const typed = own?.takes.at(-1)
          const q = card.fitted ? assessment.quantities[d.key] : undefined
          const shown = card.fitted ? (q?.value == null ? '' : String(q.value)) : typed ? `${typed.typed}${typed.unit && typed.unit !== unit ? ` ${typed.unit}` : ''}` : ''
          return (
            <li key={d.key} data-unmeasured={shown === ''}>
              <span>{d.name}</span>
              <FigureField
                id={`parts-${card.n}-size-${d.key}`}
                label={`${d.name} of ${card.name || card.kind}${unit ? `, ${unit}` : ''}`}
                shown={shown}
                kind={d.kind}
                unit={unit}
                className={`cell ${sourceClass(own?.source ?? q?.source)} ${shown ? '' : 'none'}`}
                dimension={d.key}
                acts={(text) => [readingOf(d, text, system, desk.now().tool, card.n)]}
              />
              <span className="unit soft">{unit}</span>
              <span className="soft">{own?.source ?? q?.source ?? ''}</span>
            </li>
          )
        })}
      </ul>
    </div>
  )
}

/** Parts by kind: the one that is fitted, those on the shelf, and what would fit; below them the list of all cards. */
export default function Parts() {
  const { state, catalogue } = useBuild()
  const [ranked, rank] = useState('')
  const library = useLibrary()
  const cards = state.document.parts
  const kinds = [...new Set(cards.map((c) => c.kind))].sort((a, b) => Number(a === '') - Number(b === '') || a.localeCompare(b))
  return (
    <>
      <section aria-label="Parts by kind" className="partkinds">
        {cards.length === 0 && <p className="empty">No part has a card yet. A part that lies on the bench, at a seller or in the box gets one below, with its own sizes.</p>}
        {kinds.map((kind) => {
          const own = cards.filter((c) => c.kind === kind).sort((a, b) => Number(b.fitted) - Number(a.fitted))
          const sizes = catalogue.dimensions.filter((d) => d.part === kind)
          return (
            <div key={kind}>
              <h3>
                {kind || 'kind not said'}
                {kind !== '' && own.length + (library.found?.parts.filter((p) => p.kind === kind).length ?? 0) > 1 && (
                  <button type="button" className="quiet" aria-expanded={ranked === kind} onClick={() => rank(ranked === kind ? '' : kind)}>
                    {ranked === kind ? 'close' : 'what fits?'}
                    <span className="visually-hidden"> {kind}</span>
                  </button>
                )}
              </h3>
              <ul className="plain partlist">
                {own.map((card) => (
                  <Line key={card.n} card={card} sizes={kind ? sizes : []} keep={() => library.act(api.keepPart(state.id, card.n))} />
                ))}
              </ul>
              {ranked === kind && <WhatFits kind={kind} />}
            </div>
          )
        })}
      </section>
      <Library />
      <RowsEditor
        listKey="parts"
        open
        without={NOT_TYPED}
        folded={FOLDED}
        more={(row) => {
          const card = cards.find((c) => c.n === row.n)
          return (
            card && (
              <>
                <Pinned address={`parts.${card.n}`} of={card.name || `part ${card.n}`} version={card.version} />
                <Sizes card={card} />
                {!card.fitted && (card.kind === 'engine' || card.kind === 'gearbox') && (
                  <Suspense fallback={null}>
                    <ShelfFace card={card} />
                  </Suspense>
                )}
              </>
            )
          )
        }}
      />
    </>
  )
}
