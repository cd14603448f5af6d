import { describe, expect, it } from "vitest";
import type { LogLine } from "../../api/queries";
import { canKeep, EMPTY, eventOf, local, momentOf, typedOf } from "./entry";

describe("an entry", () => {
  it("of a flight speaks for itself, and counts", () => {
    const typed = { ...EMPTY, count: 3, minutes: 24, battery: " 3S 2200 " };
    expect(canKeep(typed)).toBe(true);
    const event = eventOf(typed);
    expect(event.says).toBe("3 flights, 24 min, 3S 2200");
    expect(event.flight).toEqual({ count: 3, minutes: 24, wind_m_s: null, battery: "3S 2200" });
  });
  it("of another kind needs words and carries no flight", () => {
    const typed = { ...EMPTY, kind: "build" as const };
    expect(canKeep(typed)).toBe(false);
    expect(canKeep({ ...typed, says: "  " })).toBe(false);
    const event = eventOf({ ...typed, says: " Spar glued " });
    expect([event.says, event.flight, event.part_id]).toEqual(["Spar glued", null, null]);
  });
  it("has a place only on a part", () => {
    const typed = { ...EMPTY, kind: "note" as const, says: "soft", at_mm: 120 };
    expect(eventOf(typed).at_mm).toBeNull();
    expect(eventOf({ ...typed, part: "wing" }).at_mm).toBe(120);
  });
  it("is typed again as it was", () => {
    const typed = { ...EMPTY, count: 2, wind_m_s: 4, part: "wing", at_mm: 80, says: "gusty" };
    const line = { happened: "2026-05-02T09:30:00Z", event: eventOf(typed) } as unknown as LogLine;
    const again = typedOf(line);
    expect({ ...again, when: "" }).toEqual(typed);
    expect(momentOf(again.when)).toBe("2026-05-02T09:30:00.000Z");
    const plain = { ...line, event: eventOf({ ...EMPTY, count: 2 }) } as unknown as LogLine;
    expect(typedOf(plain).says).toBe("");
  });
  it("happened now where no moment is typed", () => {
    expect(momentOf("")).toBeNull();
    expect(local("2026-05-02T09:30:00Z")).toHaveLength(16);
  });
});
