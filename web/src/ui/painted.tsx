import type { ImgHTMLAttributes } from 'react'

/** A picture that has left the page is not waited for: those in view come sooner, and so does what the page asks for next. */
const letGo = (picture: HTMLImageElement) => () => picture.removeAttribute('src')

/** A picture that the server paints when it comes into sight. */
export function Painted({ alt, ...props }: ImgHTMLAttributes<HTMLImageElement> & { src: string; alt: string }) {
  return <img ref={letGo} loading="lazy" draggable={false} alt={alt} {...props} />
}
