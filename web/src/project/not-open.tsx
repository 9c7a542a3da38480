import { Link } from 'react-router'

/** A project that is being opened, or cannot be. */
export function NotOpen({ fault }: { fault: string | null }) {
  if (fault === null)
    return (
      <div role="status" className="grid h-full place-items-center text-soft">
        Opening the project…
      </div>
    )
  return (
    <main className="grid h-full place-items-center p-6 text-center">
      <div>
        <p className="font-heading text-xl">{fault}</p>
        <Link className="mt-3 inline-block text-tarn underline" to="/">
          All projects
        </Link>
      </div>
    </main>
  )
}
