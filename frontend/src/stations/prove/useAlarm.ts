/** An alarm that cannot be overlooked: in the title of the window, as a notification where the browser allows it, and
 * as a sound, until it is over or muted. */
import { useIntervalFn, useLocalStorage, useWebNotification } from '@vueuse/core'
import { computed, onScopeDispose, watch, type Ref } from 'vue'
import { t } from '@/words'

/** `says`: what is wrong; empty while nothing is. */
export function useAlarm(says: Ref<string>) {
  const sounding = computed(() => says.value !== '')
  const notification = useWebNotification({ requestPermissions: false })
  const mayNotify = computed(() => notification.isSupported.value && !notification.permissionGranted.value)
  const muted = useLocalStorage('pocket-spark-muted', false)
  let title = ''
  let audio: AudioContext | undefined

  function beep(): void {
    if (muted.value || !sounding.value) return
    audio ??= new AudioContext()
    const tone = audio.createOscillator()
    const loudness = audio.createGain()
    tone.frequency.value = 880
    loudness.gain.setValueAtTime(0.2, audio.currentTime)
    loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.4)
    tone.connect(loudness).connect(audio.destination)
    tone.start()
    tone.stop(audio.currentTime + 0.4)
  }
  const beeping = useIntervalFn(beep, 1200, { immediate: false })

  function quiet(): void {
    beeping.pause()
    if (title) document.title = title
    title = ''
  }
  watch(
    sounding,
    (on) => {
      if (!on) return quiet()
      title = document.title
      document.title = t('UNPLUG · {title}', { title })
      beep()
      beeping.resume()
      if (notification.permissionGranted.value)
        void notification.show({ title: t('UNPLUG'), body: says.value })
    },
    { immediate: true },
  )
  onScopeDispose(quiet)

  return { muted, mayNotify, askToNotify: notification.ensurePermissions }
}
