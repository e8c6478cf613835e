import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** The theme's colours by their names in styles.css, where they stand, by day and by night. */
const COLOURS = {
  background: '--ground',
  surface: '--paper',
  'on-surface': '--ink',
  'on-background': '--ink',
  primary: '--woad',
  'on-primary': '--on-woad',
  error: '--madder',
  warning: '--weld',
  success: '--moss',
} as const

function coloursNow(): Record<string, string> {
  const style = getComputedStyle(document.documentElement)
  return Object.fromEntries(Object.entries(COLOURS).map(([role, name]) => [role, style.getPropertyValue(name).trim()]))
}

const night = window.matchMedia('(prefers-color-scheme: dark)')
const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    cspNonce: nonce,
    defaultTheme: 'ours',
    variations: false,
    themes: { ours: { dark: night.matches, colors: coloursNow(), variables: { 'medium-emphasis-opacity': 0.78 } } },
  },
  defaults: {
    VBtn: { rounded: 'pill', variant: 'outlined', height: 44, class: 'text-none' },
    VTextField: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VCombobox: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
  },
})

night.addEventListener('change', () => {
  const { ours } = vuetify.theme.themes.value
  if (ours) Object.assign(ours, { dark: night.matches, colors: { ...ours.colors, ...coloursNow() } })
})
