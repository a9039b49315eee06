export function Block({ title, right, children }: { title: string; right?: string; children: React.ReactNode }) {
  return (
    <section className="border-b border-hairline py-3">
      <h2 className="mb-1.5 flex items-baseline justify-between gap-2 text-body font-bold">
        {title} {right && <span className="text-label font-normal text-ink-2">{right}</span>}
      </h2>
      {children}
    </section>
  );
}
