/** Files that the server makes from the open document: asked for with a POST, given to the maker as a download. */
import { ref } from 'vue'

import { send, sentenceOf } from '@/api/client'
import { useConversion } from '@/stores/conversion'

export function useDownload() {
  const conversion = useConversion()
  const problem = ref('')

  async function fetchMade(url: string, more: object = {}): Promise<Blob | undefined> {
    const answer = await send(url, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...conversion.question(), ...more }),
    })
    if (answer.ok) {
      problem.value = ''
      return answer.blob()
    }
    problem.value = sentenceOf(await answer.json())
    return undefined
  }

  async function download(url: string, name: string, more: object = {}): Promise<void> {
    const made = await fetchMade(url, more)
    if (!made) return
    const link = document.createElement('a')
    link.href = URL.createObjectURL(made)
    link.download = name
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 1000)
  }

  return { problem, fetchMade, download }
}
