"""What moved under the eye, by the browser's own account of it (layout-shift entries of the Layout Instability API)."""

# A tenth is commonly called poor; the half of it is wanted here.
TOO_MUCH = 0.05
WATCHED = """window.shifted = 0
new PerformanceObserver((list) => {
  for (const entry of list.getEntries()) if (!entry.hadRecentInput) window.shifted += entry.value
}).observe({ type: 'layout-shift', buffered: true })"""


def shifted(page):
    return round(page.evaluate("window.shifted"), 3)
