using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Recording;

/// <summary>What the picture of a channel shows, against the views that were agreed.</summary>
public enum ShownView
{
    /// <summary>The view that is planned here.</summary>
    Same,

    /// <summary>A view that is planned on another channel.</summary>
    Swapped,

    /// <summary>A view that stands rightly on another channel, too.</summary>
    Twice,

    /// <summary>The planned view, upside down.</summary>
    UpsideDown,

    /// <summary>The planned view, left and right changed.</summary>
    Mirrored,

    /// <summary>None of the views that were agreed.</summary>
    Stranger,

    /// <summary>Nothing can be told: why, is said.</summary>
    CannotTell,
}

/// <summary>How sure that is.</summary>
public enum Sureness
{
    /// <summary>Nothing is told.</summary>
    None,

    /// <summary>Enough of it agrees.</summary>
    Likely,

    /// <summary>Most of what has detail agrees.</summary>
    Certain,
}

/// <summary>A picture made ready to be held against many others, in a small size.</summary>
public sealed class ViewPrint
{
    /// <summary>Pixels across: more tells no more apart.</summary>
    private const int Wide = 320;

    private const int Small = 64;

    /// <summary>Rows are counted by so many: streams of one sensor are rounded.</summary>
    private const int Rows = 4;

    private static readonly PhaseCorrelation Phases = PhaseCorrelation.OfSide(Small);

    private readonly GreyRaster _picture;
    private readonly Lazy<PicturePyramid> _mirrored;
    private readonly PhaseCorrelation.Spectrum _spectrum,
        _turned;
    private readonly Lazy<PhaseCorrelation.Spectrum> _turnedClosely;

    /// <param name="picture">Any size.</param>
    public ViewPrint(GreyRaster picture)
    {
        _picture = picture.Sized(Wide, Rows * Math.Max(1, (int)Math.Round((double)Wide * picture.Height / picture.Width / Rows)));
        Pyramid = new(_picture, isForMany: true);
        _mirrored = new(() => new(_picture.Mirrored(), isForMany: true));
        _spectrum = Phases.Of(Plane.Of(_picture, Small).Evened());
        _turned = PhaseCorrelation.Turned(_spectrum);
        _turnedClosely = new(() => PhaseCorrelation.Turned(Pyramid.Spectrum));
        Empty = EmptyPicture.Of(_picture) is { } nothing ? new($"identity.{nothing.ToString().ToLowerInvariant()}") : null;
    }

    /// <summary>Why it shows nothing; null: it shows something.</summary>
    public Message? Empty { get; }

    internal PicturePyramid Pyramid { get; }

    internal PicturePyramid Mirrored => _mirrored.Value;

    /// <summary>They have one shape: another has another field.</summary>
    internal bool HasShapeOf(ViewPrint other) => Pyramid.Height == other.Pyramid.Height;

    /// <summary>How alike they look at a glance, either way up: how high the peak of their phases stands over all else. What has
    /// nothing in common stays near 1; so does much that is the same.</summary>
    internal double AtGlance(ViewPrint other) => Either(Phases.Find(other._spectrum, _spectrum, _turned)).Likeness;

    /// <summary>Likewise in a larger size, which takes four times as long: what is the same stands out. And whether this one looks more
    /// like it the other way up.</summary>
    internal (double Likeness, bool IsTurned) Closely(ViewPrint other) =>
        Either(PhaseCorrelation.OfSide(Pyramid.Side).Find(other.Pyramid.Spectrum, Pyramid.Spectrum, _turnedClosely.Value));

    /// <summary>How alike they look, either way up.</summary>
    public double Likeness(ViewPrint other) => Closely(other).Likeness;

    private static (double Likeness, bool IsTurned) Either((PhaseCorrelation.Peak Upright, PhaseCorrelation.Peak Turned) peaks) =>
        (Math.Max(peaks.Upright.Ratio, peaks.Turned.Ratio), peaks.Turned.Ratio > peaks.Upright.Ratio);
}

/// <summary>A channel as it was seen.</summary>
/// <param name="Number">Of the recorder.</param>
/// <param name="Planned">Whose view belongs here; null: nobody's.</param>
/// <param name="Print">Its picture; null: there is none.</param>
/// <param name="Trouble">Why there is none.</param>
public sealed record SeenChannel(int Number, PlannedChannel? Planned, ViewPrint? Print, Message? Trouble = null);

/// <summary>A view that was agreed, with its picture.</summary>
/// <param name="Planned">The channel that it is planned on.</param>
/// <param name="Print">Its picture.</param>
public sealed record AgreedPrint(PlannedChannel Planned, ViewPrint Print);

/// <summary>One view that a picture was held against.</summary>
/// <param name="Channel">Of that view.</param>
/// <param name="IsMatch">They show the same.</param>
/// <param name="Agreement">Share of what has detail that agrees; 0 where nothing was found.</param>
/// <param name="TurnDeg">The picture is turned clockwise by so much against it; null: no match.</param>
/// <param name="MovedPercent">Its middle is moved by so much of the width; null: no match.</param>
public sealed record ViewCompared(Guid Channel, bool IsMatch, double Agreement, double? TurnDeg, double? MovedPercent);

/// <summary>What one channel shows.</summary>
/// <param name="Number">Of the recorder.</param>
/// <param name="Planned">Whose view belongs here; null: nobody's.</param>
/// <param name="Finding">What it shows.</param>
/// <param name="Shows">Whose view that is; null: nobody's that is known.</param>
/// <param name="Sure">How sure that is.</param>
/// <param name="Why">Why nothing can be told, or what is to be known; null where the finding says all.</param>
/// <param name="Compared">The nearest first; the planned one is among them where it was agreed.</param>
public sealed record ChannelView(
    int Number,
    PlannedChannel? Planned,
    ShownView Finding,
    PlannedChannel? Shows,
    Sureness Sure,
    Message? Why,
    ImmutableArray<ViewCompared> Compared
)
{
    /// <summary>What measures.</summary>
    public const string Algorithm = "identity";

    /// <summary>Its edition.</summary>
    public const int AlgorithmVersion = 1;

    /// <summary>The row of a channel that it answers.</summary>
    public static readonly CheckId Row = new("recorder.shows");

    /// <summary>Figures that a reading of it keeps.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ImmutableSortedDictionary<string, double> Inputs =>
        Compared is [var nearest, ..]
            ? ImmutableSortedDictionary<string, double>.Empty.Add("agreement", Math.Round(nearest.Agreement, 3))
            : ImmutableSortedDictionary<string, double>.Empty;

    /// <summary>What the row of the channel is told; null: nothing that pictures can tell for sure.</summary>
    public bool? ShowsPlanned =>
        Finding switch
        {
            ShownView.Same => true,
            ShownView.Swapped or ShownView.Twice or ShownView.UpsideDown or ShownView.Mirrored => Sure == Sureness.Certain ? false : null,
            _ => null,
        };
}

/// <summary>The pictures of a recorder's channels against all views that were agreed, and the fewest exchanges that put them
/// right.</summary>
/// <param name="Channels">By number.</param>
/// <param name="Exchanges">In their order.</param>
/// <param name="Unagreed">So many planned views have no agreed picture: a stranger may be one of them.</param>
public sealed record ChannelViews(ImmutableArray<ChannelView> Channels, ImmutableArray<ChannelExchange> Exchanges, int Unagreed)
{
    /// <summary>Below this likeness nobody is held against a picture in full: what shows the same stays above it.</summary>
    private const double Alike = 1.35;

    /// <summary>So many that look alike at a glance are looked at closely, and of those so many held against a picture, beside the one that
    /// is planned.</summary>
    private const int MostLookedAt = 12,
        MostTried = 1;

    /// <summary>And so many of those that no channel was found to show, against one that was found nowhere.</summary>
    private const int MoreTried = 4;

    /// <param name="seen">Channels of one recorder.</param>
    /// <param name="agreed">Views that were agreed, also those of channels that were not seen.</param>
    /// <param name="planned">How many views are planned on it.</param>
    /// <param name="done">Told after each channel.</param>
    /// <param name="cancel">Stops it.</param>
    public static ChannelViews Of(
        IReadOnlyList<SeenChannel> seen,
        IReadOnlyList<AgreedPrint> agreed,
        int planned,
        Action? done = null,
        CancellationToken cancel = default
    )
    {
        var unagreed = Math.Max(0, planned - agreed.Count);
        var options = new ParallelOptions { CancellationToken = cancel };
        var sought = seen.Select(c => new Sought(c, agreed)).ToArray();
        var shown = new ChannelView[seen.Count];
        Parallel.For(
            0,
            seen.Count,
            options,
            i =>
            {
                sought[i].Try(agreed, MostLookedAt, MostTried);
                if (sought[i].IsOver)
                    done?.Invoke();
            }
        );
        // What looks like another one at a glance is found among the views that are left.
        var taken = sought.Select(s => s.Best).ToHashSet();
        var left = agreed.Where(a => !taken.Contains(a)).ToList();
        Parallel.For(
            0,
            seen.Count,
            options,
            i =>
            {
                var isOver = sought[i].IsOver;
                if (!isOver)
                    sought[i].Try(left, left.Count, MoreTried);
                shown[i] = sought[i].Told(unagreed);
                if (!isOver)
                    done?.Invoke();
            }
        );
        var seats = shown
            .Where(c => c is { Shows: not null, Finding: not ShownView.Mirrored })
            .GroupBy(c => c.Shows!.Id)
            .ToDictionary(g => g.Key, g => g.OrderBy(c => c.Number != c.Shows!.Number).ThenBy(c => c.Number).First().Number);
        ImmutableArray<ChannelView> channels =
        [
            .. shown
                .Select(c =>
                    c is { Finding: ShownView.Swapped, Shows: { } of } && seats[of.Id] != c.Number
                        ? c with
                        {
                            Finding = ShownView.Twice,
                        }
                        : c
                )
                .OrderBy(c => c.Number),
        ];
        var occupants = channels
            .GroupBy(c => c.Number)
            .ToDictionary(g => g.Key, g => g.First() is { Finding: not ShownView.Twice, Shows: { } of } ? of : null);
        return new(channels, ChannelMap.Fewest(occupants), unagreed);
    }

    /// <summary>One channel's picture while it is looked for among the views.</summary>
    private sealed class Sought
    {
        private readonly SeenChannel _channel;
        private readonly AgreedPrint? _own;
        private readonly Message? _cannot;
        private readonly List<ViewCompared> _compared = [];
        private PictureRegistration _found = PictureRegistration.None;

        public Sought(SeenChannel channel, IReadOnlyList<AgreedPrint> agreed)
        {
            (_channel, _own) = (channel, agreed.FirstOrDefault(a => a.Planned.Id == channel.Planned?.Id));
            _cannot =
                channel.Print is not { } print ? channel.Trouble ?? new("identity.no-picture")
                : print.Empty is { } empty ? empty
                : _own is not null && !_own.Print.HasShapeOf(print) ? new("identity.other-shape")
                : null;
        }

        /// <summary>The view that it shows; null: none was found yet.</summary>
        public AgreedPrint? Best { get; private set; }

        /// <summary>There is nothing more to look for.</summary>
        public bool IsOver => _cannot is not null || Best is not null;

        /// <summary>Holds it against those of the views that look most alike and that it was not held against: the likeliest first, and
        /// the planned one whatever it looks like. Two views that both match there are none: what shows one shows no other.</summary>
        /// <param name="views">That it may be.</param>
        /// <param name="looked">So many are looked at closely.</param>
        /// <param name="held">Of those so many are held against it in full.</param>
        public void Try(IReadOnlyList<AgreedPrint> views, int looked, int held)
        {
            if (IsOver)
                return;
            var print = _channel.Print!;
            var near = views.Where(a => a.Print.HasShapeOf(print) && _compared.TrueForAll(c => c.Channel != a.Planned.Id)).ToList();
            if (near.Count > looked)
                near =
                [
                    .. near.Select(a => (View: a, Alike: a == _own ? double.MaxValue : print.AtGlance(a.Print)))
                        .OrderByDescending(a => a.Alike)
                        .Take(looked)
                        .Select(a => a.View),
                ];
            var likely = near.Select(a => (View: a, Glance: print.Closely(a.Print)))
                .Where(a => a.View == _own || a.Glance.Likeness >= Alike)
                .OrderByDescending(a => a.Glance.Likeness)
                .Where((a, rank) => a.View == _own || rank < held);
            foreach (var (one, glance) in likely)
            {
                var lies = PictureRegistration.Of(one.Print.Pyramid, print.Pyramid, glance.IsTurned && glance.Likeness >= Alike);
                _compared.Add(Held(one, lies, print));
                if (!lies.IsMatch)
                    continue;
                (Best, _found) = (one, lies);
                return;
            }
        }

        /// <summary>What is told of it.</summary>
        /// <param name="unagreed">So many planned views have no agreed picture.</param>
        public ChannelView Told(int unagreed)
        {
            if (_cannot is not null)
                return Cannot(_cannot);
            var (stands, laid) = PictureStanding.Of(
                _found,
                () => _own is null ? PictureRegistration.None : PictureRegistration.Of(_own.Print.Pyramid, _channel.Print!.Mirrored)
            );
            var turned = stands is Orientation.UpsideDown or Orientation.Flipped ? new Message("identity.also-turned") : null;
            switch (stands)
            {
                case Orientation.Mirrored or Orientation.Flipped:
                    return Is(ShownView.Mirrored, _own!, laid.Agreement, turned);
                case not Orientation.Undecided when Best != _own:
                    return Is(ShownView.Swapped, Best!, laid.Agreement, turned);
                case not Orientation.Undecided:
                    return Is(turned is null ? ShownView.Same : ShownView.UpsideDown, _own!, laid.Agreement);
            }
            if (_channel.Planned is not null && _own is null)
                return Cannot(new("identity.not-agreed"));
            var maybe = unagreed > 0 ? new Message("identity.maybe-unagreed", Message.Number(unagreed, 0)) : null;
            return Telling(ShownView.Stranger, null, Sureness.None, maybe);
        }

        private ChannelView Is(ShownView finding, AgreedPrint shows, double agreement, Message? why = null) =>
            Telling(finding, shows.Planned, agreement >= PictureStanding.Surely ? Sureness.Certain : Sureness.Likely, why);

        private ChannelView Cannot(Message why) => Telling(ShownView.CannotTell, null, Sureness.None, why);

        private ChannelView Telling(ShownView finding, PlannedChannel? shows, Sureness sure, Message? why) =>
            new(_channel.Number, _channel.Planned, finding, shows, sure, why, [.. _compared.OrderByDescending(static c => c.Agreement)]);

        private static ViewCompared Held(AgreedPrint view, PictureRegistration lies, ViewPrint print) =>
            lies.IsMatch
                ? new(
                    view.Planned.Id,
                    true,
                    lies.Agreement,
                    lies.TurnDeg,
                    100 * double.Hypot(lies.ShiftX, lies.ShiftY) / print.Pyramid.Width
                )
                : new(view.Planned.Id, false, 0, null, null);
    }
}
