import { askForFile } from '../api/client'
import { sayWrong } from './notice'

/** Save a file that the server makes; what it refuses is said. */
export async function download(href: string) {
  try {
    const { blob, name } = await askForFile(href)
    const link = document.createElement('a')
    link.href = URL.createObjectURL(blob)
    link.download = name
    link.click()
    // the browser takes it up once this has run
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  } catch (e) {
    sayWrong(e)
  }
}
