/** The foot, the shoe and the sole as the steps see them. */
export function MeasuringStep({ index }: { index: number }) {
  const foot = "M18 84 C14 70 20 58 34 54 L46 24 L66 24 L70 50 C88 56 108 64 124 70 C136 73 140 79 136 84 Z";
  const shoe = "M14 90 C10 72 16 60 32 54 L40 36 L72 36 L76 54 C94 60 114 66 132 72 C144 76 146 84 142 90 Z";
  const sole =
    "M16 56 C14 40 28 34 46 38 C66 42 84 34 106 34 C130 34 144 44 144 56 C144 70 130 78 108 76 C86 74 66 70 46 74 C28 78 16 72 16 56 Z";
  return (
    <svg viewBox="0 0 160 110" aria-hidden>
      {index === 0 && (
        <>
          <path className="skin" d={foot} />
          <circle className="spot" cx={106} cy={72} r={6} />
          <text x={84} y={104}>
            knuckle
          </text>
        </>
      )}
      {index === 1 && (
        <>
          <path className="shoe" d={shoe} />
          <path className="aid" d={foot} transform="translate(2 2)" />
          <circle className="spot" cx={108} cy={74} r={6} />
        </>
      )}
      {index === 2 && (
        <>
          <path className="shoe" d={shoe} />
          <line className="aid" x1={4} x2={156} y1={92} y2={92} />
          <path className="measure" d="M108 40V92" />
          <path className="aid" d="M108 92h22v-48" />
          <circle className="spot" cx={108} cy={74} r={5} />
        </>
      )}
      {index === 3 && (
        <>
          <path className="shoe" d={sole} />
          <rect className="aid" x={74} y={44} width={22} height={24} rx={3} />
          <path className="measure" d="M108 30V82" />
          <path className="aid" d="M85 30V82" />
          <path className="measure" d="M85 92H108" />
          <text x={66} y={107}>
            behind
          </text>
        </>
      )}
    </svg>
  );
}
