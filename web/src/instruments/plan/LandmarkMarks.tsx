import { useWork } from "../../api/work";

const ARM_PX = 6;

/** Landmarks of a floor: a cross and a name. */
export function LandmarkMarks({ floor, px }: { floor: number; px: number }) {
  const { outcome } = useWork();
  const here = (outcome.project.landmarks ?? []).filter((mark) => mark.floor_id === floor);
  const arm = ARM_PX * px;
  return (
    <>
      {here.map((mark) => (
        <g key={mark.id} transform={`translate(${mark.x_m} ${mark.y_m})`} pointerEvents="none">
          <path
            d={`M${-arm} ${-arm}L${arm} ${arm}M${-arm} ${arm}L${arm} ${-arm}`}
            stroke="var(--moss)"
            strokeWidth={2 * px}
          />
          <text x={arm + 3 * px} y={4 * px} fontSize={12 * px} fill="var(--moss)">
            {mark.name}
          </text>
        </g>
      ))}
    </>
  );
}
