import { afterEach, expect, it, vi } from 'vitest'
import { download } from './download'
import { notice } from './notice'

afterEach(() => vi.unstubAllGlobals())

it('saves a file by the name that the server gives it', async () => {
  const headers = { 'Content-Disposition': 'attachment; filename="stool.model.pdf"' }
  vi.stubGlobal('fetch', vi.fn().mockResolvedValue(new Response('%PDF', { headers })))
  URL.createObjectURL = () => 'blob:own'
  URL.revokeObjectURL = vi.fn()
  const saved: string[] = []
  HTMLAnchorElement.prototype.click = function () {
    saved.push(this.download, this.href)
  }
  await download('/api/jobs/1/export/model.pdf')
  expect(saved).toEqual(['stool.model.pdf', 'blob:own'])
})

it('says what the server refuses instead of saving it', async () => {
  const refused = { sentence: 'At 1:4 “wall” is 460 mm long and doesn’t go on one page.', reason: 'scale' }
  vi.stubGlobal('fetch', vi.fn().mockResolvedValue(Response.json(refused, { status: 422 })))
  await download('/api/jobs/1/export/model.pdf')
  expect(notice.value).toEqual({ text: refused.sentence, wrong: true })
})
