import { DrawingSurface } from "../../instruments/plan/DrawingSurface";
import { Section } from "../../instruments/plan/Section";
import { useLayout } from "../../instruments/plan/useLayout";
import { Beside } from "./Beside";

/** The section, and the sheet of what is chosen in it. */
export function SectionView() {
  const layout = useLayout();
  return (
    <DrawingSurface>
      <div className="drawing">{layout && <Section layout={layout.layout} ways={layout.ways} />}</div>
      <Beside />
    </DrawingSurface>
  );
}
