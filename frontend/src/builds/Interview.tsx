import type { ReactNode } from 'react'
import type { Build } from '../api/types'
import './builds.css'

/** What is said of a build before anything is measured; what is empty is not known yet. */
export interface Answers {
  readonly layout: Build['layout']
  readonly options: Readonly<Record<string, string>>
}

interface Choice {
  readonly value: string
  readonly words: string
  readonly draws: ReactNode
}

/** The vehicle from above, front to the left, with its unit in it. */
const vehicle = (unit: ReactNode) => (
  <>
    <path className="thin" d="M6,12H98V46H6ZM16,6h14M16,52h14M74,6h14M74,52h14" />
    {unit}
  </>
)
const LAYOUTS: readonly Choice[] = [
  { value: 'lengthwise', words: 'lengthwise, accessory end to the vehicle front', draws: vehicle(<path className="cut" d="M14,20H36V38H14ZM36,24H50V34H36ZM14,25h-4v8h4" />) },
  { value: 'reversed', words: 'reversed, accessory end to the vehicle rear', draws: vehicle(<path className="cut" d="M68,20H90V38H68ZM54,24H68V34H54ZM90,25h4v8h-4" />) },
  { value: 'crosswise left', words: 'crosswise, accessory end to the vehicle left', draws: vehicle(<path className="cut" d="M16,26H34V44H16ZM20,16H30V26H20ZM21,44v4h8v-4" />) },
  { value: 'crosswise right', words: 'crosswise, accessory end to the vehicle right', draws: vehicle(<path className="cut" d="M16,14H34V32H16ZM20,32H30V42H20ZM21,14v-4h8v4" />) },
  { value: 'swing arm', words: 'swings with its wheel', draws: <path className="cut" d="M10,24L30,16L44,30M44,30m-3,0a3,3 0 1,0 6,0a3,3 0 1,0 -6,0M47,28H74V38H52M82,38m-14,0a14,14 0 1,0 28,0a14,14 0 1,0 -28,0M82,38m-3,0a3,3 0 1,0 6,0a3,3 0 1,0 -6,0M60,28L56,12" /> },
]
const NOT_YET: Choice = { value: '', words: 'not known yet', draws: <path className="thin" strokeDasharray="4 4" d="M20,14H84V44H20Z" /> }
const COUPLINGS: readonly Choice[] = [
  { value: 'clutch and bellhousing', words: 'clutch and bellhousing', draws: <path className="cut" d="M12,14H40V44H12ZM40,14L66,22V36L40,44M66,24H94V34H66M46,18V40M50,20V38" /> },
  { value: 'converter automatic', words: 'converter automatic', draws: <path className="cut" d="M12,14H36V44H12ZM36,29H44M56,29m-12,0a12,15 0 1,0 24,0a12,15 0 1,0 -24,0M68,29H96V38H68" /> },
  { value: 'dual clutch box', words: 'dual clutch box', draws: <path className="cut" d="M12,14H40V44H12ZM46,16V42M50,16V42M54,16V42M58,16V42M58,26H96M58,32H96" /> },
  { value: 'belt drive', words: 'belt drive', draws: <path className="cut" d="M28,34m-10,0a10,10 0 1,0 20,0a10,10 0 1,0 -20,0M76,28m-16,0a16,16 0 1,0 32,0a16,16 0 1,0 -32,0M28,24L76,12M28,44L76,44" /> },
  { value: 'centrifugal clutch', words: 'centrifugal clutch', draws: <path className="cut" d="M12,16H38V42H12ZM38,29H56M56,12H62V46H56ZM62,18q16,11 0,22M78,29H94" /> },
]
const PLATES: readonly Choice[] = [
  { value: 'own', words: 'own', draws: <path className="cut" d="M30,12H74L80,46H24ZM52,29m-10,0a10,10 0 1,0 20,0a10,10 0 1,0 -20,0M34,18h2M68,18h2M30,40h2M72,40h2" /> },
  { value: 'bought', words: 'bought', draws: <path className="cut" d="M22,16H70V44H22ZM22,24H70M40,16V24M78,20l14,6l-14,6M46,34m-6,0a6,6 0 1,0 12,0a6,6 0 1,0 -12,0" /> },
  { value: 'part of a kit', words: 'part of a kit', draws: <path className="cut" d="M18,20H86V48H18ZM18,20L30,10H74L86,20M34,34m-6,0a6,6 0 1,0 12,0a6,6 0 1,0 -12,0M52,28H62V40H52M70,28v12" /> },
  { value: 'none', words: 'none', draws: <path className="cut" d="M16,16H50V44H16ZM54,22L88,26V34L54,38Z" /> },
]
const WAYS: readonly Choice[] = [
  { value: 'from above', words: 'from above', draws: <path className="cut" d="M12,46H92M12,46V36M92,46V36M38,6H66V22H38ZM52,22V38M46,32l6,6l6,-6" /> },
  { value: 'from below', words: 'from below', draws: <path className="cut" d="M12,12H92M12,12v10M92,12v10M38,36H66V52H38ZM52,36V20M46,26l6,-6l6,6" /> },
  { value: 'to the gearbox that stays', words: 'to the gearbox that stays', draws: <path className="cut" d="M58,20L92,24V34L58,38ZM12,18H40V40H12ZM42,29H54M48,23l6,6l-6,6" /> },
]
const HANDS: readonly Choice[] = [
  { value: 'alone', words: 'alone', draws: <path className="cut" d="M52,14m-6,0a6,6 0 1,0 12,0a6,6 0 1,0 -12,0M52,20V38M52,26L40,32M52,26L64,32M52,38L44,52M52,38L60,52" /> },
  { value: 'with helpers', words: 'with helpers', draws: <path className="cut" d="M36,14m-6,0a6,6 0 1,0 12,0a6,6 0 1,0 -12,0M36,20V38M36,26L26,32M36,26L46,32M36,38L28,52M36,38L44,52M70,14m-6,0a6,6 0 1,0 12,0a6,6 0 1,0 -12,0M70,20V38M70,26L60,32M70,26L80,32M70,38L62,52M70,38L78,52" /> },
]
const DRIVES: readonly Choice[] = [
  { value: 'one-piece shaft', words: 'one-piece shaft', draws: vehicle(<path className="cut" d="M14,22H32V36H14ZM32,29H80M80,16V42" />) },
  { value: 'two-piece shaft', words: 'two-piece shaft', draws: vehicle(<path className="cut" d="M14,22H32V36H14ZM32,29H56M56,25v8M56,29L80,29M80,16V42" />) },
  { value: 'half shafts', words: 'half shafts', draws: vehicle(<path className="cut" d="M14,20H32V38H14ZM23,20V9M23,38V49" />) },
  { value: 'chain', words: 'chain', draws: vehicle(<path className="cut" d="M20,22H36V36H20ZM36,24q6,5 0,10M40,24L78,22M40,34L78,36M84,29m-7,0a7,7 0 1,0 14,0a7,7 0 1,0 -14,0" />) },
]

interface QuestionProps {
  name: string
  asks: string
  choices: readonly Choice[]
  chosen: string
  choose: (value: string) => void
}

function Question({ name, asks, choices, chosen, choose }: QuestionProps) {
  return (
    <fieldset className="interview">
      <legend>{asks}</legend>
      {choices.map((c) => (
        <label key={c.value} className={c.value === chosen ? 'chosen' : ''}>
          <input type="radio" name={name} value={c.value} checked={c.value === chosen} onChange={() => choose(c.value)} />
          <svg viewBox="0 0 104 58" aria-hidden="true">
            {c.draws}
          </svg>
          <span>{c.words}</span>
        </label>
      ))}
    </fieldset>
  )
}

/** Which way round the unit stands, what the drive goes through and how it leaves: it decides which questions, sizes, steps and sheets there are. */
export function Interview({ answers, answer }: { answers: Answers; answer: (answers: Answers) => void }) {
  const option = (key: string) => (value: string) => {
    const others = Object.entries(answers.options).filter(([k]) => k !== key)
    answer({ ...answers, options: Object.fromEntries(value === '' ? others : [...others, [key, value]]) })
  }
  return (
    <>
      <Question name="layout" asks="Which way round does the engine stand?" choices={[NOT_YET, ...LAYOUTS]} chosen={answers.layout} choose={(value) => answer({ ...answers, layout: value as Build['layout'] })} />
      <Question name="coupling" asks="What does the engine drive through?" choices={[NOT_YET, ...COUPLINGS]} chosen={answers.options['coupling'] ?? ''} choose={option('coupling')} />
      <Question name="drive" asks="How does the drive leave?" choices={[NOT_YET, ...DRIVES]} chosen={answers.options['drive'] ?? ''} choose={option('drive')} />
      <Question name="plate" asks="Where does the adapter plate come from?" choices={[NOT_YET, ...PLATES]} chosen={answers.options['plate_from'] ?? ''} choose={option('plate_from')} />
      <Question name="way" asks="Which way does it go in?" choices={[NOT_YET, ...WAYS]} chosen={answers.options['way_in'] ?? ''} choose={option('way_in')} />
      <Question name="hands" asks="Who works?" choices={[NOT_YET, ...HANDS]} chosen={answers.options['hands'] ?? ''} choose={option('hands')} />
    </>
  )
}
