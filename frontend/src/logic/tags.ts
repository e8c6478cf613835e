/** How high a tag on the work is, pixels. */
export const TAG_HEIGHT = 28
/** How wide one with this text is. */
export const tagWidth = (text: string) => text.length * 8.4 + 24
