using System.Collections.Concurrent;
using System.Collections.Immutable;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;

namespace Walkdown.Core.Tests;

/// <summary>What a later action makes void, row by row of the table of CAPABILITIES, what it leaves, and the order of the work.</summary>
public sealed class VoidTests
{
    private static readonly string[] Kinds =
    [
        "dome-varifocal",
        "bullet",
        "number-plate",
        "pan-tilt-zoom",
        "tile-dome",
        "light-horn",
        "coax-camera",
        "radio-camera",
        "radio-recorder",
        "bridge",
        "switch",
        "supply",
        "adapter-pair",
        "light-ring",
        "recorder",
        "cloud-bridge",
    ];

    private static readonly ConcurrentDictionary<string, CardFacts> Known = new();

    private static CardFacts Finished(string kind) => Known.GetOrAdd(kind, Finish);

    private static CardFacts Finish(string kind)
    {
        var features = kind switch
        {
            "pan-tilt-zoom" => ["presets-2", "card-slot", "io"],
            "coax-camera" => ["composite", "low-voltage"],
            "dome-varifocal" => ["outdoor", "card-slot", "infrared"],
            "bullet" => ["card-slot", "analytics", "low-voltage", "power-mode-switch"],
            _ => new[] { "card-slot" },
        };
        var job = WholeWork.Job(kind, features);
        if (!Facts.Shipped.Kind(kind)!.Features.Contains("cable"))
            job.With(f => f with { Runs = [] });
        if (kind == "tile-dome")
            job.With(f => f with { Place = f.Place with { Mount = "ceiling-tile" } });
        return WholeWork.Do(job, true).Now;
    }

    private static Act Work(CardFacts on, string kind, CableEnd? end = null, Guid? run = null) =>
        new()
        {
            Id = Guid.NewGuid(),
            By = Facts.Ina,
            At = on.Now,
            Sequence = 900_000,
            ActKind = kind,
            End = end,
            On =
                Facts.Shipped.Acts.Single(a => a.Id == kind).On == SubjectKind.Run && (run ?? on.Runs.FirstOrDefault()?.Id) is { } id
                    ? new Subject(SubjectKind.Run, id)
                    : new Subject(SubjectKind.Place, on.Place.Id),
        };

    private static HashSet<string> Void(CardFacts facts, Act act) =>
        [
            .. Card.Judge(facts with { Events = facts.Events.Add(act), Now = facts.Now.AddMinutes(1) }, Facts.Shipped)
                .Rows.Where(r => r is { State: State.Stale })
                .Select(r => r.Check.Id.Value),
        ];

    /// <summary>Work on the device's recorder.</summary>
    private static CardFacts AtRecorder(CardFacts facts, params CardEvent[] events) =>
        facts with
        {
            Channels = [.. facts.Channels.Select(c => c with { RecorderFacts = c.RecorderFacts! with { Events = [.. events] } })],
            Now = facts.Now.AddMinutes(1),
        };

    private static string[] Words(string words) => words.Split(' ', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>The table, with what each action leaves: a shortened cable is another cable, a cord at the cabinet opens no seal at the
    /// camera, and a reset leaves what hangs, what it sees, and the pictures on the card.</summary>
    [Theory]
    [InlineData("bullet", "re-crimp", "far", "cable.wire-map link.speed link.activity cable.loop-resistance fixing.seals", "cable.length")]
    [InlineData("bullet", "re-crimp", "near", "cable.wire-map link.speed", "fixing.seals fixing.hung")]
    [InlineData("bullet", "re-punch", "near", "cable.wire-map link.speed cable.label-far", "fixing.seals cable.order")]
    [InlineData(
        "bullet",
        "shortened",
        "far",
        "cable.wire-map cable.length cable.loop-resistance link.speed link.probes fixing.drip-loop fixing.seals",
        "cable.label fixing.tilt"
    )]
    [InlineData("bullet", "hard-pull", null, "cable.jacket cable.wire-map cable.loop-resistance link.speed link.probes", "cable.label")]
    [InlineData(
        "bullet",
        "cable-replaced",
        null,
        "cable.label cable.length fixing.barrier fixing.seals cable.hole",
        "fixing.tilt aim.after"
    )]
    [InlineData(
        "bullet",
        "port-moved",
        null,
        "power.feed power.mode-switch power.mode-switch-closing link.speed link.port-role cable.label-far power.permanent",
        "cable.wire-map cable.length"
    )]
    [InlineData("dome-varifocal", "axis-turned", null, "aim.after aim.hazards focus.cover-on fixing.tilt night.picture", "recorder.clip")]
    [InlineData(
        "dome-varifocal",
        "cover-opened",
        null,
        "focus.cover-on night.picture fixing.seals fixing.safety finish.films",
        "aim.after"
    )]
    [InlineData("dome-varifocal", "cover-cleaned", null, "night.picture night.reach finish.lens-again finish.cleaned", "fixing.covered")]
    [InlineData("number-plate", "lens-touched", null, "focus.cover-on plates.geometry plates.trial", "plates.lane aim.after")]
    [InlineData(
        "bullet",
        "reset",
        null,
        "address.kept address.factory-refused time.offset recorder.stream recorder.clip recorder.zones recorder.zone-walk",
        "aim.after fixing.tilt before.card recorder.name"
    )]
    [InlineData("number-plate", "updated", null, "finish.defaults plates.link recorder.clip time.source address.kept", "aim.after")]
    [InlineData("number-plate", "address-changed", null, "address.found recorder.registered plates.link", "time.zone aim.after")]
    [InlineData("bullet", "password-changed", null, "address.factory-refused address.custodian recorder.shows", "address.unique")]
    [InlineData("bullet", "time-changed", null, "time.offset recorder.clip recorder.clip-after", "recorder.shows recorder.stream")]
    [InlineData("bullet", "seal-opened", null, "fixing.seals fixing.cured fixing.drip-loop", "fixing.hung")]
    [InlineData("tile-dome", "tile-moved", null, "fixing.front fixing.tile-back finish.closed aim.after", "fixing.hold")]
    [InlineData("bullet", "feed-changed", null, "power.feed power.boot power.aux-lead power.permanent", "cable.wire-map")]
    [InlineData("bullet", "moved", null, "fixing.height aim.after focus.cover-on cable.route", "cable.wire-map address.unique")]
    [InlineData("bullet", "unit-swapped", null, "before.damage recorder.clip recorder.stream link.speed", "cable.wire-map cable.length")]
    [InlineData("coax-camera", "re-crimp", "far", "coax.plug coax.level coax.picture", "coax.cable")]
    [InlineData("coax-camera", "cable-replaced", null, "coax.cable coax.plug coax.level coax.hum coax.picture", "coax.format")]
    [InlineData("recorder", "disk-changed", null, "recorder.disk recorder.store", "time.zone")]
    public void WhatAnActionMakesVoid(string kind, string act, string? end, string voids, string leaves)
    {
        var facts = Finished(kind);
        if (kind == "coax-camera" && facts.Runs.IsEmpty)
            facts = facts with { Runs = WholeWork.Job("bullet").Now.Runs };
        var counted = Card.Judge(facts, Facts.Shipped).Rows.Where(r => r.Counts is not null).Select(r => r.Check.Id.Value).ToHashSet();
        CableEnd? at = end is null ? null : Enum.Parse<CableEnd>(end, true);
        var stale = Void(facts, Work(facts, act, at));
        Assert.Equal([], Words(voids + " " + leaves).Except(counted));
        Assert.Equal([], Words(voids).Except(stale));
        Assert.Equal([], Words(leaves).Intersect(stale));
    }

    /// <summary>Nothing that the catalogue says of an act is idle: on some kind of device it makes a reading void.</summary>
    [Fact]
    public void WhatIsSaidToBeVoidBecomesVoid()
    {
        var idle = Facts
            .Shipped.Checks.SelectMany(c =>
                c.VoidedBy.Select(a => (c.Id.Value, a, ""))
                    .Concat(c.VoidedWhere.Where(v => v.Act is not null).Select(v => (c.Id.Value, v.Act!, v.AtRecorder ? "at" : "end")))
            )
            .ToHashSet();
        var seen = new HashSet<string>();
        foreach (var kind in Kinds)
        {
            var facts = Finished(kind);
            if (facts.Runs.IsEmpty)
                facts = facts with { Runs = WholeWork.Job("bullet").Now.Runs };
            seen.UnionWith(Card.Judge(facts, Facts.Shipped).Rows.Where(r => r.Counts is not null).Select(r => r.Check.Id.Value));
            foreach (var act in Facts.Shipped.Acts)
            {
                var work = Work(facts, act.Id, act.AsksEnd ? CableEnd.Far : null);
                foreach (var check in Void(facts, work))
                {
                    idle.Remove((check, act.Id, ""));
                    idle.Remove((check, act.Id, "end"));
                }
                if (!facts.Channels.IsEmpty)
                    foreach (var row in Card.Judge(AtRecorder(facts, work), Facts.Shipped).Rows.Where(r => r.State == State.Stale))
                        idle.Remove((row.Check.Id.Value, act.Id, "at"));
            }
        }
        // Of what was never read here nothing can become void: those are rows that something else makes due.
        Assert.Equal([], idle.Where(i => seen.Contains(i.Item1)));
        Assert.InRange(seen.Count, 130, Facts.Shipped.Checks.Length);
    }

    /// <summary>Another run's work says nothing of this run, and is work on the device all the same.</summary>
    [Fact]
    public void WorkOnOneRunLeavesWhatIsOfAnother()
    {
        var facts = Finished("bullet");
        var other = facts.Runs[0] with { Id = Guid.NewGuid(), Label = "CC-07 b", Port = null };
        var stale = Void(facts with { Runs = [.. facts.Runs, other] }, Work(facts, "port-moved", null, other.Id));
        Assert.Contains("power.feed", stale);
        Assert.DoesNotContain("link.speed", stale);
        Assert.DoesNotContain("link.port-role", stale);
    }

    /// <summary>What was done at the recorder reaches the Cards of what it records, by its name, and what was taken back there does
    /// not.</summary>
    [Theory]
    [InlineData("reset", "recorder.shows recorder.clip recorder.registered", "time.offset address.unique")]
    [InlineData("unit-swapped", "recorder.shows recorder.clip-after recorder.mode", "aim.after")]
    [InlineData("time-changed", "recorder.clip recorder.clip-after", "recorder.shows")]
    [InlineData("updated", "recorder.clip recorder.stream", "recorder.shows")]
    [InlineData("disk-changed", "recorder.clip", "recorder.shows")]
    [InlineData("restarted", "", "recorder.clip recorder.shows")]
    public void WorkAtTheRecorderReachesItsCameras(string act, string voids, string leaves)
    {
        var facts = Finished("bullet");
        var recorder = facts.Channels[0].RecorderFacts!;
        var work = Work(recorder with { Now = facts.Now }, act);
        var rows = Card.Judge(AtRecorder(facts, work), Facts.Shipped).Rows;
        foreach (var check in Words(voids))
        {
            var row = rows.First(r => r.Check.Id.Value == check);
            Assert.Equal(State.Stale, row.State);
            Assert.Contains(new Measures.Message("stale.voidedAt", "@act." + act, Measures.Message.Said("NVR-1")), row.Because);
        }
        Assert.All(Words(leaves), check => Assert.Equal(State.In, rows.First(r => r.Check.Id.Value == check).State));
        var taken = new Withdrawal
        {
            Id = Guid.NewGuid(),
            By = Facts.Ina,
            At = facts.Now,
            Sequence = 900_001,
            Of = work.Id,
            Reason = "the other recorder",
        };
        Assert.DoesNotContain(Card.Judge(AtRecorder(facts, work, taken), Facts.Shipped).Rows, r => r.State == State.Stale);
    }

    /// <summary>What cannot be said of an act is named.</summary>
    [Theory]
    [InlineData("null", "")]
    [InlineData("""{ "act": "magic", "atRecorder": true }""", "'magic' is no act")]
    [InlineData("{}", "work or a reading makes it void, one of them")]
    [InlineData("""{ "act": "reset", "check": "aim.view" }""", "work or a reading makes it void, one of them")]
    [InlineData("""{ "check": "aim.magic" }""", "'aim.magic' is no check")]
    [InlineData("""{ "check": "aim.after" }""", "'aim.after' is itself made void by a reading")]
    [InlineData("""{ "check": "finish.x" }""", "'finish.x' is itself made void by a reading")]
    [InlineData("""{ "act": "re-crimp" }""", "at an end of the run or at the recorder, one of them")]
    [InlineData("""{ "act": "re-crimp", "end": "far", "atRecorder": true }""", "at an end of the run or at the recorder, one of them")]
    [InlineData("""{ "act": "hard-pull", "end": "far" }""", "nobody is asked at which end 'hard-pull' was done")]
    [InlineData("""{ "act": "hard-pull", "atRecorder": true }""", "is work on a run, not on a recorder")]
    public void AnActThatCannotBeThereIsNamed(string where, string problem)
    {
        var check =
            """{ "checks": [{ "id": "finish.x", "version": 1, "section": "finish", "leg": "fixing", "entry": "yesNo", "per": "place", """
            + $$""" "judge": "yes-no", "expect": "yes", "voidedWhere": [{{where}}] }],"""
            + """ "texts": { "en": { "check.finish.x": "X", "check.finish.x.ask": "X?" } } }""";
        var problems = Catalogue.Read(Catalogue.Shipped.Append(("own.json", check)), Facts.Texts).Problems;
        Assert.Contains(problems, p => p.File == "own.json" && p.What.Contains(problem, StringComparison.Ordinal));
    }

    /// <summary>The end of a visit is a sequence: what was looked at before the screws were tight, the cover clean, the zone drawn or the
    /// lens set says nothing of afterwards; taken again, it does.</summary>
    [Theory]
    [InlineData("dome-varifocal", "aim.locked", null, "aim.after", "aim.view")]
    [InlineData("dome-varifocal", "finish.cleaned", "alcohol", "night.picture night.reach finish.lens-again", "aim.after focus.cover-on")]
    [InlineData("dome-varifocal", "finish.cleaned", "not-needed", "", "night.picture finish.lens-again")]
    [InlineData("dome-varifocal", "focus.cover-off", null, "focus.cover-on", "aim.after")]
    [InlineData("bullet", "recorder.zones", null, "recorder.zone-walk", "recorder.clip")]
    [InlineData("bullet", "power.mode-switch", null, "power.mode-switch-closing", "power.feed")]
    public void WhatWasLookedAtBeforeIsLookedAtAgain(string kind, string read, string? word, string voids, string leaves)
    {
        var facts = new Facts().With(_ => Finished(kind));
        CardRow Row(string check) => facts.Card.Rows.First(r => r.Check.Id.Value == check);
        foreach (var check in Words(voids + " " + leaves))
            Assert.Equal((check, State.In), (check, Row(check).State));
        facts.With(f => f with { Now = f.Now.AddSeconds(30) });
        WholeWork.Take(facts, Row(read), word is null ? WholeWork.Answer(facts, Row(read)) : new ChoiceValue(word));
        foreach (var check in Words(voids))
        {
            var row = Row(check);
            Assert.Equal((check, State.Stale), (check, row.State));
            Assert.Contains(new Measures.Message("stale.voidedByCheck", "@check." + read), row.Because);
        }
        foreach (var check in Words(leaves))
            Assert.Equal((check, State.In), (check, Row(check).State));
        foreach (var check in Words(voids))
            WholeWork.Take(facts, Row(check), WholeWork.Answer(facts, Row(check)));
        foreach (var check in Words(voids))
            Assert.Equal((check, State.In), (check, Row(check).State));
    }

    /// <summary>The chain of the work: what stands later waits, if by way of others, for what stands before it. A gate that is out stops
    /// only what depends on it.</summary>
    [Theory]
    [InlineData("before.pack fixing.hung")]
    [InlineData("before.consent cable.hole")]
    [InlineData("bench.picture fixing.hung")]
    [InlineData("radio.paired-bench fixing.hung")]
    [InlineData("cable.label cable.wire-map power.poe-class power.boot link.speed address.found address.unique address.kept")]
    [InlineData("cable.scheme cable.order cable.termination")]
    [InlineData("fixing.safety fixing.hung aim.view aim.locked aim.after")]
    [InlineData("power.aux-lead power.feed power.poe-class power.boot link.light")]
    [InlineData("address.kept recorder.registered recorder.shows recorder.stream recorder.clip recorder.clip-after")]
    [InlineData("address.found time.zone time.offset recorder.clip")]
    [InlineData("time.offset plates.link")]
    [InlineData("aim.locked focus.cover-off focus.cover-on night.picture")]
    [InlineData("fixing.safety fixing.covered focus.cover-on")]
    [InlineData("power.volts-at-device night.picture night.reach")]
    [InlineData("aim.locked recorder.zones recorder.zone-walk")]
    [InlineData("plates.geometry plates.trial")]
    [InlineData("fixing.seals fixing.cured")]
    [InlineData("fixing.covered finish.cleaned finish.as-left")]
    [InlineData("recorder.disk recorder.clip finish.handed-over finish.witness")]
    public void TheWorkHasItsOrder(string chain)
    {
        var before = Facts.Shipped.Checks.ToDictionary(
            c => c.Id.Value,
            c =>
                c.Gates.Concat(c.HoldUntil)
                    .Concat(c.Needs.Select(n => n.Recorder).OfType<CheckId>())
                    .Concat(c.Wait?.After is { } after ? [after] : [])
                    .Select(id => id.Value)
                    .ToImmutableArray()
        );
        bool Follows(string later, string earlier) => before[later].Any(b => b == earlier || Follows(b, earlier));
        var words = Words(chain);
        for (var i = 1; i < words.Length; i++)
            Assert.True(Follows(words[i], words[i - 1]), $"{words[i]} does not wait for {words[i - 1]}");
    }
}
