using System.Collections.Immutable;
using System.Text.Json;
using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>What is kept as JSON comes back as it was, and what is no JSON of ours is refused.</summary>
public sealed class JsonTests
{
    private static T Back<T>(T value) =>
        JsonSerializer.Deserialize<T>(JsonSerializer.Serialize(value, CoreJson.Options), CoreJson.Options)!;

    [Fact]
    public void NumbersComeBack() =>
        Gen.Double[-1e6, 1e6]
            .Sample(value => Back<ReadingValue>(new NumberValue(value, Unit.Ohm)).Equals(new NumberValue(value, Unit.Ohm)));

    [Fact]
    public void WireMapsComeBack() =>
        Gen.Int[0, 8]
            .Array[8]
            .Sample(far =>
            {
                var map = new WireMapValue(
                    [.. far.Select(f => f == 0 ? ImmutableArray<int>.Empty : [f])],
                    MapReadAt.FarUnit,
                    ImmutableDictionary<string, double>.Empty.Add("5", 61.8),
                    "CC-07"
                );
                var back = (WireMapValue)Back<ReadingValue>(map);
                return back.NearToFar.Select(f => string.Join("+", f)).SequenceEqual(map.NearToFar.Select(f => string.Join("+", f)))
                    && back.OpenDistanceMetres!["5"] == 61.8
                    && back.RemoteLabel == "CC-07";
            });

    [Fact]
    public void EachKindOfEventComesBackAsItself()
    {
        var at = new DateTimeOffset(2026, 10, 14, 9, 0, 0, TimeSpan.Zero);
        var key = Facts.Key("cable.length");
        CardEvent[] events =
        [
            new Act
            {
                Id = Guid.NewGuid(),
                By = Facts.Ina,
                At = at,
                ActKind = "re-crimp",
                On = key.On,
                End = Cabling.CableEnd.Far,
                Text = "again",
            },
            new Withdrawal
            {
                Id = Guid.NewGuid(),
                By = Facts.Ina,
                At = at,
                Of = Guid.NewGuid(),
                Reason = "slip",
            },
            new Exemption
            {
                Id = Guid.NewGuid(),
                By = Facts.Ina,
                At = at,
                Key = key,
                Reason = "moulded",
            },
            new Concession
            {
                Id = Guid.NewGuid(),
                By = Facts.Ina,
                At = at,
                Key = key,
                AllowedBy = "Odile Farrow",
                Reason = "agreed",
            },
            new Note
            {
                Id = Guid.NewGuid(),
                By = Facts.Ina,
                At = at,
                Key = key,
                Text = "behind the kiosk",
            },
        ];
        foreach (var e in events)
            Assert.Equal(e, Back(e));
    }

    [Theory]
    [InlineData("{\"kind\":\"number\",\"value\":\"1\",\"unit\":\"ohm\"}")]
    [InlineData("{\"kind\":\"number\",\"value\":1,\"unit\":3}")]
    [InlineData("{\"kind\":\"number\",\"unit\":\"ohm\"}")]
    [InlineData("{\"kind\":\"picture\"}")]
    public void WhatIsNoReadingIsRefused(string json) =>
        Assert.ThrowsAny<JsonException>(() => JsonSerializer.Deserialize<ReadingValue>(json, CoreJson.Options));

    [Fact]
    public void JudgingIsAFunctionOfTheFacts()
    {
        var facts = new Facts().Healthy();
        facts.Work("re-crimp", Cabling.CableEnd.Far);
        var once = JsonSerializer.Serialize(facts.Card, CoreJson.Options);
        facts.With(f => f with { Readings = [.. f.Readings.Reverse()], Events = [.. f.Events.Reverse()] });
        Assert.Equal(once, JsonSerializer.Serialize(facts.Card, CoreJson.Options));
    }
}
