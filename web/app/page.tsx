import { ProjectList } from "../features/projects/ProjectList.tsx";

export default function Page() {
  return <ProjectList />;
}
