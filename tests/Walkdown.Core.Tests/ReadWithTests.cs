using Walkdown.Core.Acceptance;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Tests;

/// <summary>What a typed reading was read with: the instrument that somebody has chosen, or something else that he holds.</summary>
public sealed class ReadWithTests
{
    private static readonly Catalogue Catalogue = Facts.Shipped;

    private static Instrument Chosen(string kind) =>
        new(
            Guid.NewGuid(),
            kind,
            "S-1",
            Catalogue.InstrumentKinds.FirstOrDefault(k => k.Id == kind)?.Functions ?? [Metres],
            null,
            null,
            [],
            []
        )
        {
            Kind = kind,
        };

    private static InstrumentFunction Metres => new(Unit.Metre, new Accuracy(Absolute: 0.002));

    [Theory]
    [InlineData("fixing.slack", "camera-tester", false)]
    [InlineData("fixing.slack", "cable-meter", false)]
    [InlineData("fixing.slack", "tape", true)]
    [InlineData("fixing.height", "camera-tester", false)]
    [InlineData("fixing.tilt", "tape", false)]
    [InlineData("fixing.tilt", "inclinometer", true)]
    // A kind that nobody said the tools of, and one that is not known: whoever chose it knows.
    [InlineData("fixing.slack", "", true)]
    [InlineData("fixing.slack", "range-finder", true)]
    [InlineData("cable.length", "camera-tester", true)]
    [InlineData("cable.length", "cable-meter", true)]
    [InlineData("power.volts-at-device", "multimeter", true)]
    [InlineData("power.volts-at-source", "multimeter", true)]
    [InlineData("cable.wire-map", "cable-meter", true)]
    [InlineData("gear.output", "multimeter", true)]
    // By eye, by a clock, by a thermometer that is in no Kit.
    [InlineData("cable.label", "camera-tester", false)]
    [InlineData("before.ambient", "camera-tester", false)]
    [InlineData("power.boot", "camera-tester", false)]
    [InlineData("link.activity", "camera-tester", false)]
    public void ACheckIsReadWithWhatItIsReadWith(string check, string kind, bool isRead) =>
        Assert.Equal(isRead, Catalogue.IsReadWith(Catalogue.CheckById[new(check)], Chosen(kind)));

    /// <summary>Each check that a source answers can be read with each kind that is no tape: nothing that was measured loses its
    /// accuracy.</summary>
    [Fact]
    public void WhatATesterAnswersKeepsItsInstrument()
    {
        foreach (var check in Catalogue.Checks.Where(c => c.Tester is not null))
            Assert.All(
                Catalogue.InstrumentKinds.Where(k => !k.ByHand),
                k => Assert.True(Catalogue.IsReadWith(check, Chosen(k.Id)), check.Id.Value)
            );
    }

    [Fact]
    public void WhatIsNotOfTheKitStaysAsItWasSaid()
    {
        var tester = Chosen("camera-tester");
        var slack = Catalogue.CheckById[new("fixing.slack")];
        Assert.Null(Catalogue.ReadWith(slack, [tester], tester.Id));
        Assert.Null(Catalogue.ReadWith(slack, [tester], null));
        // Of what nobody knows the door says so itself.
        var stranger = Guid.NewGuid();
        Assert.Equal(stranger, Catalogue.ReadWith(slack, [tester], stranger));
    }
}
