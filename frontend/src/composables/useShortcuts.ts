/** Single-key shortcuts that stay out of the way while somebody types. */
import { useEventListener } from '@vueuse/core'

/** Keys as written on them ("1", "/", "?"); with Control or Command held, written "ctrl+z", "ctrl+shift+z". */
export function useShortcuts(actions: Record<string, () => void>): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.altKey || event.defaultPrevented) return
    const name = keyName(event)
    const action = actions[name]
    if (!action || (isTyping(event.target) && !name.startsWith('ctrl+'))) return
    if (isOwnKey(name) && isWorked(event.target)) return
    if (isTyping(event.target) && (event.target as HTMLElement).dataset.typed === 'true') return
    if (document.querySelector('.el-overlay:not([style*="display: none"])')) return
    event.preventDefault()
    action()
  })
}

function keyName(event: KeyboardEvent): string {
  if (!event.ctrlKey && !event.metaKey) return event.key
  return `ctrl+${event.shiftKey ? 'shift+' : ''}${event.key.toLowerCase()}`
}

/** Enter and the space bar belong to the button or link that has the focus. */
const isOwnKey = (name: string) => name === 'Enter' || name === ' '
const isWorked = (target: EventTarget | null) =>
  target instanceof Element && target.closest('button, a, summary, label, [role], [tabindex="0"]') !== null

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  )
}
