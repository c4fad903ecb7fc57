import { exportBuilding, ProjectError, type Project } from "@arroyo/core";

/** Offers the building as gbXML; the sentence that refuses it, or null. */
export async function saveGbxml(project: Project): Promise<string | null> {
  try {
    const { writeGbxml } = await import("@arroyo/adapters");
    const url = URL.createObjectURL(new Blob([writeGbxml(exportBuilding(project))], { type: "application/xml" }));
    const a = document.createElement("a");
    a.href = url;
    a.download = `${project.id}.xml`;
    a.click();
    // the download has taken its copy by then
    setTimeout(() => URL.revokeObjectURL(url), 5000);
    return null;
  } catch (error) {
    if (error instanceof ProjectError) return error.problems[0].message;
    throw error;
  }
}
