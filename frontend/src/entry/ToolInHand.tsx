import { TOOL_KEYS } from './hands'
import { useDesk, useDeskPart } from './useDesk'
import './entry.css'

/** The tool in hand: named once, it goes with this and every reading that follows and that it can take. */
export function ToolInHand() {
  const desk = useDesk()
  const tool = useDeskPart(desk, (s) => s.tool)
  return (
    <label className="toolinhand soft">
      Tool in hand{' '}
      <select value={tool} onChange={(e) => desk.pick(e.target.value)}>
        <option value="">not said</option>
        {Object.entries(TOOL_KEYS).map(([key, name]) => (
          <option key={key} value={name}>
            {name} ({key})
          </option>
        ))}
      </select>
    </label>
  )
}
