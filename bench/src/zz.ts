import { readParts, readTrail, writeParts } from "@hound/core/notation";
for (const t of ["Part\tFrom\tTo\tValue\nBT1\t+\t0\t9V\nRV1\t+\t0\t10k\nR1\tRV1.tap\t0\t1k", "Part,From,To,Value,Wiper\nBT1,+,0,9V,\nRV1,+,0,10k,W\nR1,W,0,1k,","RV1 A 0 10k at=30%\nBT1 A 0 9V\nR1 RV1.tap 0 1k", "Part,From,To,Value,Note\nBT1,+,0,9V,\nRV1,+,0,10k at=30%,\nR1,W,0,1k,"]) {
  const r = readParts(t); console.log(JSON.stringify(r.mistakes.map(m=>m.message)), r.circuit && JSON.stringify(r.circuit.parts.map(p=>[p.designator,p.kind,p.from,p.to,(p as any).tap,(p as any).position])));
}
const t = readTrail("BT1 9V: [P] RV1 10k at=30%\n[RV1.tap] R1 1k [0]");
console.log(t.mistakes.map(m=>m.message), JSON.stringify(t.circuit?.parts), );
if (t.circuit) console.log(writeParts(t.circuit));
for (const t of ["Part,From,To,Value,Wiper,Position\nBT1,+,0,230V mains,,\nRV1,+,0,10k,W,30%\nR1,W,0,1k,,","Part\tFrom\tTo\tValue\nBT1\tP\t0\t9V\nRV1\tP\t0\t10k at=30% wiper=[W]\nR1\tW\t0\t1k\nS1\tP\tX\topen"]) {
  const r = readParts(t); console.log(JSON.stringify(r.mistakes.map(m=>m.message)), r.circuit && JSON.stringify(r.circuit.parts));
  if (r.circuit) console.log(writeParts(r.circuit));
}
