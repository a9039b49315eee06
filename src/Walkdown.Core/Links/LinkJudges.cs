using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Links;

/// <summary>Judges of a link: what it runs at, what it loses, and what its lights say.</summary>
internal static class LinkJudges
{
    /// <summary>Under this many probes a loss is shown, and does not fail a device.</summary>
    private const int FewProbes = 20;

    /// <summary>A lit link never overrides a failed map: what links in spite of it is too close to accept.</summary>
    public static Judged Speed(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        var seen = 0;
        if (found != "none" && (!int.TryParse(found, CultureInfo.InvariantCulture, out seen) || !Negotiated.SpeedsMbps.Contains(seen)))
            return GeneralJudges.NotJudged(new Message("because.not-a-speed", found));
        if (seen == 0)
            return new(State.Out, null, null, [new Message("speed.noLink")]);
        if (c.SpeedMbps is not { } expected)
            return GeneralJudges.NotJudged(new Message("missing.speed"));
        var map = c.MeasuredMap;
        var shared = c.Run is { Shared: true };
        var pairsGood =
            map is null || shared
                ? 4
                : 4
                    - PinPair.All.Count(p =>
                        map.OpenNearPins.Any(p.Has)
                        || map.CrossedPins.Any(p.Has)
                        || map.Shorts.Any(s => s.NearPins.Any(pin => pin <= 8 && p.Has(pin)))
                    );
        var findings = Negotiated.Judge(expected, Links.Duplex.Full, seen, Links.Duplex.Full, pairsGood: pairsGood);
        var because = findings
            .Select(f => new Message(
                "speed." + Codes.Of(f),
                seen.ToString(CultureInfo.InvariantCulture),
                expected.ToString(CultureInfo.InvariantCulture)
            ))
            .ToList();
        if (!Negotiated.Passes(findings))
            return new(State.Out, null, null, [.. because]);
        if (map is { IsStraight: false } && !(shared && map.IsTwoPairsOnly))
        {
            var able = seen switch
            {
                >= 1000 => map.Links.Base1000,
                100 => map.Links.Base100,
                _ => map.Links.Base10,
            };
            because.Insert(
                0,
                new Message(
                    able == Ability.No ? "speed.contradicts-map" : "speed.lit-despite-map",
                    seen.ToString(CultureInfo.InvariantCulture)
                )
            );
            return new(State.TooClose, null, null, [.. because]);
        }
        if (map is null)
            because.Add(new Message("speed.no-map-yet"));
        return new(State.In, null, null, [.. because]);
    }

    public static Judged Duplex(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt) =>
        ((ChoiceValue)value).Choice switch
        {
            "full" => new(State.In, null, null, []),
            "half" => new(State.Out, null, null, [new("duplex.half")]),
            _ => new(State.Out, null, null, [new("duplex.mismatch")]),
        };

    /// <summary>Loss with its interval, and round trips where the tester gives them.</summary>
    public static Judged Probes(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var probes = (ProbesValue)value;
        var medium = c.Has("radio") ? "wireless" : "wired";
        var limit = c.Catalogue.Figure($"loss.{medium}-percent");
        var loss = ProbeLoss.Judge(probes.Sent, probes.Received, limit);
        var because = ImmutableArray.CreateBuilder<Message>();
        because.Add(
            new(
                "loss.interval",
                loss.Lost.ToString(CultureInfo.InvariantCulture),
                probes.Sent.ToString(CultureInfo.InvariantCulture),
                Message.Number(loss.LowPercent),
                Message.Number(loss.HighPercent),
                Message.Number(limit)
            )
        );
        var state = loss.Verdict switch
        {
            LossVerdict.Pass => State.In,
            LossVerdict.Fail => State.Out,
            _ => State.TooClose,
        };
        if (probes.Sent < FewProbes && state == State.Out && probes.Received > 0)
        {
            state = State.TooClose;
            because.Add(new("loss.few", FewProbes.ToString(CultureInfo.InvariantCulture)));
        }
        if (state == State.TooClose)
            because.Add(
                ProbeLoss.ToPass(loss.Lost, limit) is { } needed && needed > probes.Sent
                    ? new("loss.take-more", (needed - probes.Sent).ToString(CultureInfo.InvariantCulture))
                    : new("loss.no-number-decides")
            );
        if (probes.RoundTripsMs is { } trips)
        {
            var times = Latency.Of(trips);
            var most = c.Catalogue.Figure($"round-trip.{medium}-ms");
            if (times.P95Ms is { } p95)
            {
                because.Add(
                    new(
                        "latency.figures",
                        Message.Number(times.MedianMs!.Value, 1),
                        Message.Number(p95, 1),
                        Message.Number(times.JitterMs ?? 0, 2),
                        times.LongestLossBurst.ToString(CultureInfo.InvariantCulture)
                    )
                );
                if (times.Received >= FewProbes && p95 > most)
                {
                    state = State.Out;
                    because.Add(new("latency.slow", Message.Number(p95, 1), Message.Number(most, 0)));
                }
            }
        }
        return new(state, null, null, because.ToImmutable());
    }

    /// <summary>Errors of a port between two looks at its counters.</summary>
    public static Judged Counters(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var looks = (CountersValue)value;
        var limit = c.Catalogue.Figure("errors.ppm");
        var r = InterfaceErrors.Between(
            new(looks.First.Packets, looks.First.Errors),
            new(looks.Second.Packets, looks.Second.Errors),
            looks.IntervalSeconds,
            looks.Bits,
            limit
        );
        return r.Verdict switch
        {
            CounterVerdict.CounterResetReadAgain => new(State.TooClose, null, null, [new("errors.reset")]),
            CounterVerdict.NoTraffic => new(State.TooClose, null, null, [new("errors.no-traffic")]),
            CounterVerdict.NeedMoreTraffic => new(
                State.TooClose,
                null,
                null,
                [
                    Rate("errors.rate"),
                    new("errors.more-traffic", Message.Number(ProbeLoss.ToPass((long)r.Errors!.Value, limit / 1e4) ?? 0, 0)),
                ]
            ),
            CounterVerdict.Fail => new(State.Out, null, null, [Rate("errors.rate")]),
            _ => new(State.In, null, null, [Rate("errors.rate")]),
        };

        Message Rate(string code) =>
            new(
                code,
                r.Errors!.Value.ToString(CultureInfo.InvariantCulture),
                r.Packets!.Value.ToString(CultureInfo.InvariantCulture),
                Message.Number(r.RatePpm!.Value, 3),
                Message.Number(r.LowPpm!.Value, 3),
                Message.Number(r.HighPpm!.Value, 3),
                Message.Number(limit, 3)
            );
    }

    /// <summary>The rhythm that was tapped, by the model's table: what state that is, what to do next, and whether unplugging is
    /// safe.</summary>
    public static Judged Light(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var pattern = c.Lights.FirstOrDefault(l => l.Id == ((ChoiceValue)value).Choice);
        if (pattern is null)
            return GeneralJudges.NotJudged(new Message("light.unknown"));
        var state = pattern.State switch
        {
            LightState.Connected => State.In,
            LightState.Starting or LightState.Updating or LightState.Pairing or LightState.LookingForAddress => State.TooClose,
            _ => State.Out,
        };
        return new(
            state,
            null,
            null,
            [
                new("light.is", "@light." + Codes.Of(pattern.State), $"@light.{Codes.Of(pattern.State)}.next"),
                new(pattern.UnplugSafe ? "light.unplug-safe" : "light.do-not-unplug"),
            ]
        );
    }

    /// <summary>Where the run really ends: cameras on camera ports, recorders and routers on uplinks.</summary>
    public static Judged PortRole(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        var camera = c.Has("camera");
        if (found == "client-network")
            return new(State.Out, null, null, [new("role.client-network")]);
        if (camera && found == "uplink")
            return new(State.Out, null, null, [new("role.camera-on-uplink")]);
        if (c.Run?.Port is { IsUplink: true } && camera)
            return new(State.Out, null, null, [new("role.planned-on-uplink")]);
        // What has other ports behind it carries more than a camera does, and its other ports see what the port's keeper meant for one.
        if (c.Has("many-ports") && found == "camera-port")
            return new(State.TooClose, null, null, [new("role.gear-on-camera-port")]);
        return found == "other" ? new(State.TooClose, null, null, [new("role.other")]) : new(State.In, null, null, []);
    }
}
