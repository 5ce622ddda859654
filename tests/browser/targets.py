"""What is pressed, and how large it is for the hand. WCAG 2.2: 24 px for a pointer (2.5.8), 44 px for a finger (2.5.5);
what stands within a sentence and what a drawing shows at its place are excepted by both."""

SMALL = """(least) => {
  const pressed = 'a[href], button, select, textarea, summary, [role=button], input:not([type=hidden], [type=file])'
  const shown = (one) => one.checkVisibility({ opacityProperty: true, visibilityProperty: true })
    && !one.disabled && !one.closest('[inert], [aria-hidden=true], .visually-hidden')
    && one.getBoundingClientRect().width > 1
  const inSentence = (one) => getComputedStyle(one).display.startsWith('inline')
    && one.matches(':is(p, li, dd, td, small, span) > :is(a, button)')
    && [...one.parentElement.childNodes].some((node) => node.nodeType === 3 && node.textContent.trim().length > 3)
  const sizeOf = (one) => {
    const boxes = [one, ...(one.labels ?? []), one.closest('.el-select, .el-input')]
      .filter(Boolean).map((part) => part.getBoundingClientRect())
    const most = (side) => Math.max(...boxes.map((box) => box[side]))
    return [most('width'), most('height')]
  }
  return [...document.querySelectorAll(pressed)].filter((one) => shown(one) && !inSentence(one)).flatMap((one) => {
    const [width, height] = sizeOf(one)
    const enough = one instanceof SVGElement ? 24 : least
    if (width >= 23.5 && height >= enough - 0.5) return []
    return [`${one.getAttribute('aria-label') ?? one.textContent.trim()}: ${width.toFixed()} x ${height.toFixed()}`]
  })
}"""


def too_small(page, least_px):
    return page.evaluate(SMALL, least_px)
