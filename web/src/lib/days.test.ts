import { describe, expect, it } from "vitest";
import {
  addDays,
  at,
  dayOf,
  daysBetween,
  isDay,
  longDay,
  moment,
  mondayOf,
  monthName,
  nextHourOfWeek,
  published,
  readDay,
  readTime,
  shortDay,
  spanText,
  startOf,
  timeOf,
  WEEKDAYS,
  weekday,
} from "./days";

const HOUR = 3_600_000;
const hoursOf = (day: string, zone: string) => (startOf(addDays(day, 1), zone) - startOf(day, zone)) / HOUR;

describe("days in a zone", () => {
  it("promises that an instant's day is the zone's, not the computer's", () => {
    const instant = "2026-11-24T23:30:00Z";
    expect(dayOf(instant, "UTC")).toBe("2026-11-24");
    expect(dayOf(instant, "Europe/Athens")).toBe("2026-11-25");
    expect(dayOf(instant, "America/New_York")).toBe("2026-11-24");
    expect(dayOf("2026-11-24T10:30:00Z", "Pacific/Kiritimati")).toBe("2026-11-25");
  });

  // Source: IANA time zone database (tzdata), the changes of 2026 in New York and Lord Howe.
  it("promises days of 23 and 25 hours where the clocks change, and of half an hour more or less", () => {
    expect(hoursOf("2026-03-08", "America/New_York")).toBe(23);
    expect(hoursOf("2026-11-01", "America/New_York")).toBe(25);
    expect(hoursOf("2026-11-02", "America/New_York")).toBe(24);
    expect(hoursOf("2026-10-04", "Australia/Lord_Howe")).toBe(23.5);
    expect(hoursOf("2026-04-05", "Australia/Lord_Howe")).toBe(24.5);
  });

  // Source: IANA time zone database: Apia had no 30 December 2011.
  it("promises that a day a zone skipped starts where the next one does", () => {
    expect(startOf("2011-12-30", "Pacific/Apia")).toBe(startOf("2011-12-31", "Pacific/Apia"));
  });

  it("promises arithmetic over months, leap days and years", () => {
    expect(addDays("2024-02-28", 1)).toBe("2024-02-29");
    expect(addDays("2026-02-28", 1)).toBe("2026-03-01");
    expect(addDays("2026-01-01", -1)).toBe("2025-12-31");
    expect(daysBetween("2024-01-01", "2025-01-01")).toBe(366);
    expect(daysBetween("2026-11-25", "2026-11-25")).toBe(0);
    for (const count of [-400, -1, 0, 1, 31, 730])
      expect(daysBetween("2026-11-25", addDays("2026-11-25", count))).toBe(count);
  });

  // Source: ISO 8601: 2005-01-01 is a Saturday (W53-6 of 2004), 2008-12-29 the Monday of W01 of 2009.
  it("promises weekdays by ISO 8601, Monday first", () => {
    expect(weekday("2005-01-01")).toBe(6);
    expect(weekday("2008-12-29")).toBe(1);
    expect(mondayOf("2009-01-04")).toBe("2008-12-29");
    expect(mondayOf("2008-12-29")).toBe("2008-12-29");
    expect(WEEKDAYS[weekday("2026-11-25") - 1]).toBe("Wed");
  });
});

describe("a time on a day", () => {
  it("promises to come back as it was said, in any zone", () => {
    for (const zone of ["UTC", "Europe/Lisbon", "Asia/Kathmandu", "America/St_Johns"])
      for (const time of ["00:00", "09:45", "23:59"]) {
        const instant = at("2026-07-15", time, zone);
        expect([dayOf(instant, zone), timeOf(instant, zone)]).toEqual(["2026-07-15", time]);
      }
  });

  it("promises that a time the clocks skip moves on, and one that comes twice is the first", () => {
    expect(at("2026-03-08", "02:30", "America/New_York")).toBe("2026-03-08T07:30:00Z");
    expect(timeOf(at("2026-03-08", "02:30", "America/New_York"), "America/New_York")).toBe("03:30");
    expect(at("2026-11-01", "01:30", "America/New_York")).toBe("2026-11-01T05:30:00Z");
  });

  it("promises the next such hour of the week, never the one that has just passed", () => {
    const now = new Date("2026-11-25T12:00:00Z"); // a Wednesday
    expect(nextHourOfWeek(2 * 24 + 13, "UTC", now)).toBe("2026-11-25T13:00:00Z");
    expect(nextHourOfWeek(2 * 24 + 12, "UTC", now)).toBe("2026-12-02T12:00:00Z");
    expect(nextHourOfWeek(0, "UTC", now)).toBe("2026-11-30T00:00:00Z");
    expect(nextHourOfWeek(2 * 24 + 18.5, "Europe/Athens", now)).toBe("2026-11-25T16:30:00Z");
  });

  it("promises an hour of the week by the wall clock over a change of clocks", () => {
    // New York goes back on Sunday 1 November: the Monday after, nine o'clock is 14 h UTC, not 13.
    expect(nextHourOfWeek(9, "America/New_York", new Date("2026-10-30T12:00:00Z"))).toBe("2026-11-02T14:00:00Z");
  });
});

describe("days in words", () => {
  it("promises short and long forms, with the year only where it differs", () => {
    expect(shortDay("2026-03-03")).toBe("3 Mar");
    expect(shortDay("2025-03-03")).toBe("3 Mar 2025");
    expect(longDay("2016-02-29")).toBe("Monday 29 February 2016");
    expect(monthName("2016-02-01")).toBe("February 2016");
    expect(moment("2016-02-29T10:00:00Z", "Europe/Lisbon")).toBe("Mon 29 Feb 2016, 10:00");
    expect(spanText("2016-02-01", "2016-03-01")).toBe("1 Feb – 1 Mar 2016");
    expect(spanText("2025-12-30", "2026-01-02")).toBe("30 Dec 2025 – 2 Jan");
    const post = { published_at: "2026-10-24T23:00:00Z", has_time: false };
    expect(published(post, "Europe/Lisbon")).toBe("25 Oct");
    expect(published({ ...post, has_time: true }, "Europe/Lisbon")).toBe("Sun 25 Oct, 00:00");
    expect(longDay("2026-10-31")).toBe("Saturday 31 October");
    expect(spanText("2026-10-31", "2026-10-31")).toBe("31 Oct");
    expect(spanText("2026-10-29", "2026-11-25")).toBe("29 Oct – 25 Nov");
    expect(moment("2026-11-24T19:30:00Z", "Europe/Lisbon")).toBe("Tue 24 Nov, 19:30");
  });
  it("promises moments that agree with the day and the time they are made of, in any zone and month", () => {
    for (const zone of ["UTC", "Asia/Kathmandu", "America/St_Johns", "Pacific/Kiritimati"])
      for (let i = 0; i < 60; i++) {
        const instant = new Date(Date.UTC(2026, 0, 1) + i * 6.13 * 86_400_000).toISOString();
        const day = dayOf(instant, zone);
        expect(moment(instant, zone)).toBe(`${WEEKDAYS[weekday(day) - 1]} ${shortDay(day)}, ${timeOf(instant, zone)}`);
      }
  });
});

describe("days and times as people write them", () => {
  it("promises to read the usual ways, the day first, and to refuse what is no day", () => {
    const read = (text: string) => readDay(text, "2026-11-28");
    for (const text of ["2026-11-03", "3.11.2026", "03/11/26", "3 Nov 2026", "3 november", "3.11."]) {
      expect([text, read(text)]).toEqual([text, "2026-11-03"]);
    }
    expect(read("29 Feb 2024")).toBe("2024-02-29");
    for (const text of ["", "soon", "30.2.2026", "29 Feb 2026", "2026-13-01", "32 Nov", "11/28/2026", "3 Nob"]) {
      expect([text, read(text)]).toEqual([text, null]);
    }
  });
  it("promises times of a 24-hour clock", () => {
    expect(["19:30", "1930", "9", "09.05", "0:00"].map(readTime)).toEqual([
      "19:30",
      "19:30",
      "09:00",
      "09:05",
      "00:00",
    ]);
    expect(["24:00", "7:60", "7 pm", "", "193"].map(readTime)).toEqual([null, null, null, null, null]);
  });
  it("promises that an address names days that exist", () => {
    expect(["2026-02-28", "2026-02-30", "x", null].map(isDay)).toEqual([true, false, false, false]);
  });
});
