import { Suspense } from "react";
import { Certificate } from "../../../features/compliance/Certificate.tsx";

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <Suspense>
      <Certificate id={decodeURIComponent((await params).id)} />
    </Suspense>
  );
}
