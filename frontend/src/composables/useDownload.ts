/** Files that the server makes from the open document: asked for with a POST, given to the maker as a download. */
import { ref } from 'vue'

import type { Problem } from '@/api/client'
import { sentenceOf } from '@/api/client'
import { useConversion } from '@/stores/conversion'

export function useDownload() {
  const conversion = useConversion()
  const problem = ref('')

  async function fetchMade(url: string, more: object = {}): Promise<Blob | undefined> {
    const body = { project: conversion.sendable(), build: conversion.buildIndex, ...more }
    const answer = await fetch(url, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => undefined)
    if (answer?.ok) {
      problem.value = ''
      return answer.blob()
    }
    problem.value = sentenceOf(answer ? ((await answer.json()) as Problem) : undefined)
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
