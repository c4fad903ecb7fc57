import { notFound } from "next/navigation";
import { Suspense } from "react";
import { Desk } from "../../../../features/Desk.tsx";
import { builtStageNames } from "../../../../features/stages.ts";

export default async function Page({ params }: { params: Promise<{ id: string; stage: string }> }) {
  const { id, stage } = await params;
  const known = builtStageNames.find((s) => s === stage);
  if (!known) notFound();
  return (
    <Suspense>
      <Desk id={decodeURIComponent(id)} stage={known} />
    </Suspense>
  );
}
