using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>The line from a recorder or bridge to the outside, as a person measured it and asked for it.</summary>
/// <param name="UploadMbps">That it carries outwards, Mbit/s, as it was measured at the site.</param>
/// <param name="SendsMbps">That goes out all day by itself, Mbit/s; 0: nothing.</param>
/// <param name="Viewers">That look from away at once.</param>
/// <param name="EachMbps">That each of them is sent, Mbit/s.</param>
public sealed record OutsideLine(double UploadMbps, double SendsMbps, int Viewers, double EachMbps)
{
    /// <summary>The row of a Card that says it.</summary>
    public static readonly CheckId Row = new("recorder.line");

    /// <summary>Feature of what sends all day by itself: how much must be said.</summary>
    internal const string SendsAway = "sends-away";

    /// <summary>Share of a line that may be used, of the limit set: what else is on it needs the rest.</summary>
    internal const string Share = "line.use-percent";

    /// <summary>Figures of the limit set.</summary>
    internal static readonly ImmutableArray<string> Figures = [Share];

    /// <summary>As a reading of its row says it; null where that leaves out what is needed.</summary>
    /// <param name="line">Of the row.</param>
    /// <param name="sends">It sends by itself all day, and how much must be said.</param>
    internal static OutsideLine? Of(FormLine line, bool sends)
    {
        double? Said(string field) => line.Of(field)?.Number;
        return
            Said("upload") is { } upload
            && Said("viewers") is { } viewers
            && Said("each") is { } each
            && (Said("sends") ?? (sends ? null : 0)) is { } own
            ? new(upload, own, (int)viewers, each)
            : null;
    }

    /// <summary>What is on it with all viewers, of the share that may be used (docs/calculations.md, J).</summary>
    /// <param name="usePercent">That may be used.</param>
    public RecorderLoad Load(double usePercent) =>
        RecorderLoad.Of(SendsMbps > 0 ? [new(SendsMbps)] : [], UploadMbps, UploadMbps, Viewers, EachMbps, usePercent);

    /// <summary>So many may look at once; null: any.</summary>
    /// <inheritdoc cref="Load"/>
    public int? MostViewers(double usePercent) =>
        EachMbps <= 0 ? null : (int)Math.Clamp(Math.Floor((Free(usePercent) + 1e-9) / EachMbps), 0, 1_000_000);

    /// <summary>Hours in which what a day without the line left behind has gone out; null where it never does, 0 where nothing is
    /// sent.</summary>
    /// <inheritdoc cref="Load"/>
    public double? HoursToCatchUp(double usePercent) =>
        SendsMbps <= 0 ? 0
        : Free(usePercent) - Viewers * EachMbps is > 0 and var left ? SendsMbps * 24 / left
        : null;

    /// <summary>What the viewers may have, Mbit/s.</summary>
    private double Free(double usePercent) => UploadMbps * usePercent / 100 - SendsMbps;

    /// <summary>Of the row: out beyond the share that may be used; with how many viewers fit, and how long a day without it takes to make
    /// up.</summary>
    internal static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var said = ((FormValue)value).Lines[0];
        var sends = c.Has(SendsAway);
        if (Of(said, sends) is not { } line)
            return GeneralJudges.NotJudged(
                new Message(
                    "form.not-said",
                    FormJudges.Name(c, ((string[])["upload", "viewers", "each", "sends"]).First(f => said.Of(f)?.Number is null))
                )
            );
        var use = c.Catalogue.Figure(Share);
        var load = line.Load(use);
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new(
                load.UplinkOk ? "line.fits" : "line.over",
                Message.Number(load.UplinkMbps, 1),
                Message.Number(load.UplinkPercent, 0),
                Message.Number(line.UploadMbps, 1),
                Message.Number(use)
            )
        );
        if (line.MostViewers(use) is { } most)
            because.Add(new(most == 0 ? "line.nobody" : "line.viewers", Message.Number(most), Message.Number(line.EachMbps)));
        if (sends)
            because.Add(
                line.HoursToCatchUp(use) is { } hours
                    ? new("line.catch-up", Message.Number(hours, 1))
                    : new Message("line.never-catches-up")
            );
        var allowed = line.UploadMbps * use / 100;
        return new(
            load.UplinkOk ? State.In : State.Out,
            new Spare(allowed - load.UplinkMbps, null, (allowed - load.UplinkMbps) / allowed, NearestLimit.Max),
            null,
            because.ToImmutable()
        );
    }
}
