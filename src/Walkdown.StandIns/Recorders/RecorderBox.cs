using System.Globalization;

namespace Walkdown.StandIns.Recorders;

/// <summary>A channel of the schedule, before anything is planted.</summary>
public sealed record PlannedView(
    int Channel,
    string Label,
    int Head,
    int Heads,
    string Serial,
    string Mac,
    string Address,
    double Peak,
    bool HasZones = false
);

/// <summary>One thing that is set at a channel.</summary>
public sealed record SetChannel(int Channel, string? Name, int? From);

/// <summary>A simulated recorder: it records what happens before its cameras, by its own clock, and forgets what it forgets.</summary>
public sealed class RecorderBox(
    RecorderTruth truth,
    string serial,
    IReadOnlyList<PlannedView> views,
    SimClock clock,
    string address = "",
    IReadOnlyList<LinkTruth>? links = null
)
{
    /// <summary>At which cameras send their events here.</summary>
    private const int EventPort = 8443;

    private readonly Lock _lock = new();
    private readonly List<(int Channel, DateTimeOffset At)> _events = [];
    private readonly HashSet<int> _broken = [];

    /// <summary>Since when the zones of a channel ring as they should, and how often they did before.</summary>
    private readonly Dictionary<int, (DateTimeOffset At, double Every)> _quiet = [];
    private RecorderTruth _truth = truth;

    /// <summary>As it was until its last start: by that it was written until then.</summary>
    private RecorderTruth _before = truth;
    private DateTimeOffset _started = clock.Time.AddDays(-3);

    public string Label { get; } = truth.Label;

    /// <summary>It is starting, and answers nobody.</summary>
    public bool IsStarting
    {
        get
        {
            lock (_lock)
                return clock.Time < _started.AddSeconds(_truth.BootSeconds);
        }
    }

    /// <summary>A moment of ours by its clock.</summary>
    public DateTimeOffset Own(DateTimeOffset at) => at.AddSeconds(_truth.ClockAheadSeconds);

    private DateTimeOffset Ours(DateTimeOffset own) => own.AddSeconds(-_truth.ClockAheadSeconds);

    public object Clock()
    {
        lock (_lock)
        {
            var at = Own(clock.Time).ToString("O", CultureInfo.InvariantCulture);
            return new { heard = at, answered = at };
        }
    }

    private ChannelTruth Of(int channel) => _truth.Channels.GetValueOrDefault(channel) ?? new();

    private PlannedView? Carried(int channel)
    {
        var own = Of(channel);
        if (own.Serial is { } serial)
            return new(channel, own.Name ?? serial, 1, 1, serial, "", own.Address ?? "", PeakOf(serial));
        var planned = views.FirstOrDefault(v => v.Channel == channel);
        var label = own.Carries ?? planned?.Label;
        var head = own.Input ?? (own.Carries is null ? planned?.Head : null) ?? 1;
        var view = views.FirstOrDefault(v => v.Label == label && v.Head == head);
        return own.Address is { } asked && view is not null ? view with { Address = asked } : view;
    }

    private string Mode(int channel) => Of(channel).Mode ?? "motion";

    private static double Share(string label) => 0.45 + 0.4 * (StableHash(label) % 100) / 100.0;

    public object Told()
    {
        lock (_lock)
        {
            var now = Own(clock.Time);
            return new
            {
                serial,
                firmware = _truth.Firmware,
                timeSource = _truth.TimeSource,
                zone = _truth.Zone,
                startedAt = Own(_started).ToString("O", CultureInfo.InvariantCulture),
                intakeMbps = _truth.IntakeMbps,
                disks = Enumerable
                    .Range(1, _truth.Bays)
                    .Select(bay => (bay, state: _truth.Disks.FirstOrDefault(d => d.Bay == bay)?.State ?? "healthy"))
                    .Select(d => new
                    {
                        d.bay,
                        tb = d.state == "missing" ? (double?)null : _truth.DiskTb,
                        d.state,
                    }),
                users = _truth.Users,
                notifies = _truth.Notifies,
                channels = views
                    .Select(v => v.Channel)
                    .Union(_truth.Channels.Keys)
                    .Order()
                    .Select(n => (n, view: Carried(n), own: Of(n), mode: Mode(n)))
                    .Select(c => new
                    {
                        number = c.n,
                        name = c.own.Name ?? NameOf(views.FirstOrDefault(v => v.Channel == c.n)),
                        serial = c.view?.Serial,
                        mac = c.view?.Mac,
                        address = c.view?.Address,
                        input = c.view?.Head,
                        state = c.view is null ? "empty"
                        : c.own.Offline ? "offline"
                        : "live",
                        mode = c.mode,
                        week = c.mode == "schedule"
                            ? Enumerable
                                .Range(1, 7)
                                .Where(_ => c.own.Hours is [var from, var to] && to > from)
                                .Select(day => new
                                {
                                    day,
                                    from = c.own.Hours[0] * 60,
                                    to = c.own.Hours[1] * 60,
                                })
                            : null,
                        codec = "H264",
                        wide = c.own.Size is [var wide, _] ? wide : 2560,
                        high = c.own.Size is [_, var high] ? high : 1440,
                        framesPerSecond = 12,
                        peakMbps = c.view?.Peak,
                        meanMbps = c.view is null || c.mode is "alarm" or "off" || c.own.Offline
                            ? 0
                            : Math.Round(c.view.Peak * (c.mode == "always" ? 1 : Share(c.view.Label)), 2),
                        recordedPercent = c.view is null || c.mode is "alarm" or "off" || c.own.Offline ? 0
                        : c.mode == "always" ? 100
                        : Math.Round(Share(c.view.Label) * 100, 1),
                        rang = c.view is { HasZones: true }
                            ? Rang(c.n, c.own).Select(r => Own(r).ToString("O", CultureInfo.InvariantCulture))
                            : null,
                        oldest = now.AddDays(-_truth.DaysKept).ToString("O", CultureInfo.InvariantCulture),
                        newest = now.AddSeconds(-1).ToString("O", CultureInfo.InvariantCulture),
                    }),
            };
        }
    }

    /// <summary>When zones rang in the last two days: what walked by, what the quay shows a few times a day, and what is in them that
    /// should not be.</summary>
    private List<DateTimeOffset> Rang(int channel, ChannelTruth own)
    {
        var now = clock.Time;
        var rang = _events.Where(e => e.Channel == channel).Select(e => e.At).ToList();
        void Every(double minutes, DateTimeOffset until)
        {
            for (var at = now.AddHours(-48).AddMinutes(minutes / 3); at < until; at = at.AddMinutes(minutes))
                rang.Add(at);
        }
        Every(431 + StableHash(Label + channel) % 90, now);
        if (own.RingsEveryMinutes is { } minutes)
            Every(minutes, now);
        else if (_quiet.TryGetValue(channel, out var quiet))
            Every(quiet.Every, quiet.At);
        rang.Sort();
        return rang;
    }

    private static string? NameOf(PlannedView? view) =>
        view is null ? null
        : view.Heads > 1 ? string.Create(CultureInfo.InvariantCulture, $"{view.Label} {view.Head}")
        : view.Label;

    /// <summary>Something moves before the cameras of these channels' places: the recorder sees it where their pictures arrive.</summary>
    public void Happens(IReadOnlyCollection<int> channels, double secondsAgo)
    {
        lock (_lock)
        {
            var at = clock.Time.AddSeconds(-secondsAgo);
            foreach (var planned in channels)
            foreach (var n in views.Select(v => v.Channel).Where(n => Carried(n)?.Channel == planned))
                _events.Add((n, at));
        }
    }

    /// <summary>The recorder's side of a channel's event link; null: its camera has none.</summary>
    public object? LinkHere(int channel)
    {
        lock (_lock)
        {
            if (Carried(channel) is not { } view || Link(view) is not var (_, camera, recorder))
                return null;
            var whole = recorder is { Port: not null, Login: true, Id: not null } && recorder.Id == camera.Id;
            return new
            {
                recorder.Port,
                login = recorder.Login ? "set" : "unset",
                id = recorder.Id ?? "",
                light = whole ? "green" : "red",
            };
        }
    }

    /// <summary>The camera's side of its event link, by its address; null: no camera of this recorder, or one without a link.</summary>
    public object? LinkAt(string camera)
    {
        lock (_lock)
        {
            if (views.FirstOrDefault(v => v.Address == camera) is not { } view || Link(view) is not var (planned, own, recorder))
                return null;
            var whole = own is { Login: true, Id: not null } && own.Server == address && own.Port == (recorder.Port ?? own.Port);
            return new
            {
                serial = view.Serial,
                planned.Role,
                own.Server,
                own.Port,
                login = own.Login ? "set" : "unset",
                id = own.Id ?? "",
                light = whole ? "green" : "red",
            };
        }
    }

    private (LinkTruth Planned, LinkSide Camera, LinkSide Recorder)? Link(PlannedView view)
    {
        if (links?.FirstOrDefault(l => l.Label == view.Label) is not { } planned)
            return null;
        var own = Of(view.Channel);
        return (
            planned,
            own.LinkAtCamera ?? new(address, EventPort, true, planned.Id),
            own.LinkAtRecorder ?? new(null, EventPort, true, planned.Id)
        );
    }

    public void Restart(double secondsAgo)
    {
        lock (_lock)
        {
            _before = _truth;
            _started = clock.Time.AddSeconds(-secondsAgo);
            _truth = _truth with
            {
                Channels = _truth.Channels.ToDictionary(
                    c => c.Key,
                    c => c.Value with { Mode = c.Value.ModeAfterStart ?? c.Value.Mode, Name = c.Value.NameAfterStart ?? c.Value.Name }
                ),
            };
            _events.RemoveAll(e => Of(e.Channel).Forgets && e.At < _started);
        }
    }

    public bool Set(IReadOnlyCollection<SetChannel> settings)
    {
        lock (_lock)
        {
            if (settings.Any(s => !views.Any(v => v.Channel == s.Channel)))
                return false;
            var before = _truth.Channels.ToDictionary();
            var after = before.ToDictionary();
            foreach (var s in settings)
            {
                var own = after.GetValueOrDefault(s.Channel) ?? new();
                if (s.From is { } from)
                {
                    var view = Carried(from);
                    own = own with { Carries = view?.Label, Input = view?.Head };
                }
                after[s.Channel] = s.Name is { } name ? own with { Name = name } : own;
            }
            _truth = _truth with { Channels = after };
            return true;
        }
    }

    /// <summary>Whose picture a channel shows now; null: nobody's.</summary>
    /// <param name="isChannel">There is such a channel.</param>
    public PlannedView? Shown(int channel, out bool isChannel)
    {
        lock (_lock)
        {
            isChannel = views.Any(v => v.Channel == channel) || _truth.Channels.ContainsKey(channel);
            return Of(channel).Offline ? null : Carried(channel);
        }
    }

    /// <summary>The pictures of a channel from one time of its own clock to another, twelve a second.</summary>
    /// <returns>Null: no such channel.</returns>
    public (IReadOnlyList<DateTimeOffset> Frames, int? BreaksAfter, PlannedView? View)? Clip(
        int channel,
        DateTimeOffset from,
        DateTimeOffset to
    )
    {
        lock (_lock)
        {
            if (!views.Any(v => v.Channel == channel))
                return null;
            var view = Carried(channel);
            var own = Of(channel);
            if (view is null || own.Offline || to <= from || to - from > TimeSpan.FromMinutes(10))
                return ([], null, view);
            var frames = new List<DateTimeOffset>();
            for (var at = from; at <= to && at <= Own(clock.Time); at = at.AddSeconds(1 / (own.Written ?? 12)))
                if (IsWritten(channel, own, Ours(at), at))
                    frames.Add(at);
            int? breaks = own.BreaksAfter is { } after && frames.Count > after && _broken.Add(channel) ? after : null;
            return (frames, breaks, view);
        }
    }

    private bool IsWritten(int channel, ChannelTruth own, DateTimeOffset at, DateTimeOffset byItself)
    {
        // Nothing is written while it starts.
        if (at >= _started && at < _started.AddSeconds(_truth.BootSeconds))
            return false;
        if (at < _started)
            own = _before.Channels.GetValueOrDefault(channel) ?? new();
        var mode = own.Mode ?? "motion";
        var near = _events.Where(e => e.Channel == channel).Select(e => (at - e.At).TotalSeconds).ToList();
        if (own.Gap is [var gapFrom, var gapTo] && near.Exists(s => s >= gapFrom && s < gapTo))
            return false;
        var wanted = mode switch
        {
            "always" => true,
            "motion" => near.Exists(s =>
                s >= -2 && s <= 14 + StableHash(own.Carries ?? channel.ToString(CultureInfo.InvariantCulture)) % 15
            ),
            "schedule" => own.Hours is [var start, var end] && byItself.UtcDateTime.Hour >= start && byItself.UtcDateTime.Hour < end,
            _ => false,
        };
        if (!wanted || _truth.IntakeMbps is not { } intake)
            return wanted;
        // What all moves at once beyond what it takes in: the channels at the end stop after four seconds.
        var busy = views
            .Where(v => _events.Exists(e => e.Channel == v.Channel && (at - e.At).TotalSeconds is >= 0 and <= 14))
            .Select(v => (v.Channel, Carried(v.Channel)?.Peak ?? 0))
            .OrderBy(v => v.Channel);
        double sum = 0;
        foreach (var (number, peak) in busy)
        {
            sum += peak;
            if (number == channel)
                return sum <= intake || near.Exists(s => s is >= -2 and <= 4);
        }
        return true;
    }

    /// <summary>What is planted, in words.</summary>
    public IEnumerable<PlantedAtRecorder> Planted()
    {
        lock (_lock)
            return
            [
                .. (_truth.Note is { } note ? new[] { new PlantedAtRecorder(Label, null, note) } : []),
                .. _truth.Channels.Where(c => c.Value.Note is not null).Select(c => new PlantedAtRecorder(Label, c.Key, c.Value.Note!)),
            ];
    }

    /// <summary>Puts a channel right, or the recorder itself.</summary>
    public void Mend(int? channel)
    {
        lock (_lock)
        {
            if (channel is { } known && Of(known).RingsEveryMinutes is { } every)
                _quiet[known] = (clock.Time, every);
            if (channel is { } n)
                _truth = _truth with { Channels = _truth.Channels.Where(c => c.Key != n).ToDictionary() };
            else
                _truth = _truth with
                {
                    ClockAheadSeconds = 0.2,
                    Disks = [],
                    IntakeMbps = _truth.IntakeMbps is null ? null : 400,
                    DaysKept = 40,
                    Note = null,
                };
        }
    }

    private static int StableHash(string text)
    {
        unchecked
        {
            var hash = 17;
            foreach (var c in text)
                hash = hash * 31 + c;
            return hash & 0x7FFFFFFF;
        }
    }

    /// <summary>The most that a camera of this label sends, Mbit/s.</summary>
    public static double PeakOf(string label) => Math.Round(4.5 + StableHash("p" + label) % 40 / 10.0, 1);
}

/// <summary>What is planted at a recorder.</summary>
/// <param name="Channel">Null: at the recorder itself.</param>
public sealed record PlantedAtRecorder(string Recorder, int? Channel, string Note);
