using System.Security.Cryptography;
using System.Text;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;

namespace Walkdown.Core.Plates;

/// <summary>What a Card has on record of test drives before its reader: what was agreed, what passed, which lists were taken.</summary>
public sealed class DriveRecord
{
    /// <summary>No vehicle passes twice within this, seconds: two people ticked the same pass off, or one thumb twice.</summary>
    private const double Same = 4;

    /// <summary>Passes further apart than this are of two visits.</summary>
    private static readonly TimeSpan Apart = TimeSpan.FromHours(3);

    /// <summary>A list is had from so long before the first pass on: what a clock is off by is still in it.</summary>
    private static readonly TimeSpan Before = TimeSpan.FromMinutes(10);

    private readonly CardFacts _facts;

    /// <param name="facts">Of the Card.</param>
    /// <param name="catalogue">In force.</param>
    public DriveRecord(CardFacts facts, Catalogue catalogue)
    {
        _facts = facts;
        IsReader = CheckPlan.FeaturesOf(facts, catalogue).Contains("plates");
        var counting = new CountingReadings(facts, catalogue);
        IEnumerable<T> Standing<T>()
            where T : CardEvent => facts.Events.OfType<T>().Where(e => !counting.IsWithdrawn(e.Id));
        Design = Standing<PlateDrive>().LastOrDefault()?.Design;
        Lists = [.. Standing<PlateList>()];
        // What was read before the reader was moved, or set otherwise, says nothing of it as it is now.
        ChangedAt = catalogue.CheckById.GetValueOrDefault(PlateTrial.Day)?.VoidedBy.Select(kind => counting.LastAct(kind)?.At).Max();
        PlatePassed[] all = [.. Standing<PlatePassed>().OrderBy(p => p.PassedAt).ThenBy(p => p.Sequence)];
        Ticked = all.Length;
        var passed = ImmutableArray.CreateBuilder<PlatePassed>();
        var last = new Dictionary<string, DateTimeOffset>();
        foreach (var pass in all)
            if (pass.PassedAt < ChangedAt)
                Outdated++;
            else if (last.TryGetValue(pass.Vehicle, out var before) && (pass.PassedAt - before).TotalSeconds < Same)
                Twice++;
            else
            {
                last[pass.Vehicle] = pass.PassedAt;
                passed.Add(pass);
            }
        Passed = passed.ToImmutable();
        Dark = facts.Site.Where(facts.TimeZone) is var (latitude, longitude, _)
            ? at => Sun.At(latitude, longitude, at).ElevationDeg <= Sun.DarkEnough
            : _ => null;
    }

    /// <summary>Whether the Card is of a plate reader.</summary>
    public bool IsReader { get; }

    /// <summary>The drive that was agreed last; null: none.</summary>
    public DriveDesign? Design { get; }

    /// <summary>Lists, in the order that they were taken.</summary>
    internal ImmutableArray<PlateList> Lists { get; }

    /// <summary>When the reader was last moved, touched or set otherwise; null: not since it hangs.</summary>
    public DateTimeOffset? ChangedAt { get; }

    /// <summary>Passes on record, of whatever use.</summary>
    internal int Ticked { get; }

    /// <summary>Passes of the reader as it is now, each once, in order of time.</summary>
    internal ImmutableArray<PlatePassed> Passed { get; }

    /// <summary>Passes before it was changed.</summary>
    internal int Outdated { get; }

    /// <summary>Passes that were ticked off once more within moments.</summary>
    internal int Twice { get; }

    /// <summary>Whether it was dark at a moment; null: nobody has said where the site is.</summary>
    internal Func<DateTimeOffset, bool?> Dark { get; }

    /// <summary>From when on a list is wanted: a little before the first pass of the last visit, and nothing of who else drove here before.
    /// </summary>
    public DateTimeOffset ListSince
    {
        get
        {
            DateTimeOffset? began = null;
            foreach (var pass in Passed.Reverse())
            {
                if (began - pass.PassedAt > Apart)
                    break;
                began = pass.PassedAt;
            }
            return (began ?? _facts.Now) - Before;
        }
    }

    /// <summary>
    /// What may be kept of a list: an own vehicle's text as it is, and what was read in its place where it passed; every other plate
    /// becomes a mark that tells equal plates of this list apart, of a secret that is thrown away.
    /// </summary>
    /// <param name="lines">As they came.</param>
    /// <param name="secret">Made for this list alone.</param>
    /// <param name="aheadSeconds">That its clock was ahead; null: not measured.</param>
    public ImmutableArray<PlateLine> Kept(
        IReadOnlyList<(DateTimeOffset At, string Text)> lines,
        ReadOnlySpan<byte> secret,
        double? aheadSeconds
    )
    {
        var own = Design is null ? [] : Plates(Design).ToHashSet();
        ImmutableArray<string> read = [.. lines.Select(l => PlateText.Folded(l.Text))];
        bool IsNear(string text) =>
            text.Length is > 0 and <= PlateText.Longest && own.Any(o => PlateText.Distance(o, text) <= PlateText.MostSlips(o));
        PlateLine[] near = [.. lines.Select((l, i) => new PlateLine(l.At, IsNear(read[i]) ? l.Text.Trim() : null, null))];
        var fates = Match([.. near], Passed, aheadSeconds)?.Lines;
        var kept = ImmutableArray.CreateBuilder<PlateLine>(lines.Count);
        for (var i = 0; i < near.Length; i++)
            kept.Add(
                own.Contains(read[i]) || near[i].Text is not null && fates?[i] is LineFate.Pass or LineFate.Double ? near[i]
                : read[i].Length == 0 ? new(near[i].At, null, null)
                : new(near[i].At, null, Convert.ToHexStringLower(HMACSHA256.HashData(secret, Encoding.UTF8.GetBytes(read[i])))[..12])
            );
        return kept.MoveToImmutable();
    }

    /// <summary>Passes beside lines; null where no drive was agreed.</summary>
    internal PlateMatch? Match(ImmutableArray<PlateLine> lines, IReadOnlyList<PlatePassed> passed, double? aheadSeconds)
    {
        if (Design is null)
            return null;
        var start = passed.Count > 0 ? passed[0].PassedAt : _facts.Now;
        return PlateMatch.Of(
            [.. passed.Select(p => new PlateMoment(PlateText.Folded(p.Plate), (p.PassedAt - start).TotalSeconds))],
            [.. lines.Select(l => new PlateMoment(l.Text is null ? null : PlateText.Folded(l.Text), (l.At - start).TotalSeconds))],
            Design.IntervalSeconds,
            Design.Rule,
            aheadSeconds,
            Design.IsAlone,
            [.. Plates(Design)]
        );
    }

    private static IEnumerable<string> Plates(DriveDesign design) => design.Vehicles.Select(v => PlateText.Folded(v.Plate));
}
