/** The easel alone on the whole screen, or back. */
export function toggleFullScreen(): void {
  if (document.fullscreenElement) void document.exitFullscreen()
  else void document.getElementById('easel')?.requestFullscreen?.()
}
