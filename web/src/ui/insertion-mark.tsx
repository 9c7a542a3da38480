/** Where what is dragged will go, at a height in its list. */
export const InsertionMark = ({ y }: { y: number }) => (
  <span aria-hidden="true" data-testid="insertion-mark" style={{ top: y - 2 }} className="pointer-events-none absolute inset-x-1 z-10 h-1 rounded-full bg-brass" />
)
