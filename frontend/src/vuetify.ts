import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

const light = {
  background: '#E8EBE3',
  surface: '#FBFAF5',
  'on-surface': '#1F2D2B',
  'on-background': '#1F2D2B',
  primary: '#275A7B',
  error: '#A23B2C',
  warning: '#8A6100',
  success: '#3F6B47',
}
const dark = {
  background: '#1B2422',
  surface: '#26312E',
  'on-surface': '#EEF0E6',
  'on-background': '#EEF0E6',
  primary: '#8FC1E3',
  error: '#F0988A',
  warning: '#E9C46A',
  success: '#93C79D',
}

const evening = window.matchMedia?.('(prefers-color-scheme: dark)').matches ?? false
const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    cspNonce: nonce,
    defaultTheme: evening ? 'evening' : 'daylight',
    variations: false,
    themes: {
      daylight: { dark: false, colors: light, variables: { 'medium-emphasis-opacity': 0.78 } },
      evening: { dark: true, colors: dark, variables: { 'medium-emphasis-opacity': 0.78 } },
    },
  },
  defaults: {
    VBtn: { rounded: 'pill', variant: 'outlined', height: 44, class: 'text-none' },
    VTextField: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VCombobox: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto' },
  },
})
