using Walkdown.Core.Entries;

namespace Walkdown.Core.Tests;

/// <summary>What was found is some device's, or nobody can tell; it is never guessed.</summary>
public sealed class FoundMatchTests
{
    private static readonly KnownIdentity Roof = new(Guid.NewGuid(), ["CC-07"], "TH4275", "02:4e:00:12:07:a1", "10.46.8.17");
    private static readonly KnownIdentity Quay = new(Guid.NewGuid(), ["CC-09", "R-209"], "TH4291", "02:4e:00:12:07:b3", "10.46.8.19");
    private static readonly KnownIdentity Twin = new(Guid.NewGuid(), ["CC-10"], "", "", "10.46.8.19");
    private static readonly KnownIdentity[] All = [Roof, Quay, Twin];

    [Fact]
    public void ASerialNumberGoesBeforeAHardwareAddressALabelAndAnAddress()
    {
        Assert.Equal((Roof.Id, "serial"), Told(new() { Serial = "th4275", HardwareAddress = Quay.HardwareAddress }));
        Assert.Equal((Quay.Id, "hardware-address"), Told(new() { HardwareAddress = "024E.0012.07B3", Label = "CC-07" }));
        Assert.Equal((Quay.Id, "label"), Told(new() { Label = "r-209" }));
        Assert.Equal((Roof.Id, "address"), Told(new() { Address = "10.46.8.17" }));
    }

    [Fact]
    public void WhatContradictsTheMatchIsNamed() =>
        Assert.Equal(
            ["hardware-address", "address"],
            FoundMatch
                .Of(
                    new()
                    {
                        Serial = "TH4275",
                        HardwareAddress = Quay.HardwareAddress,
                        Address = "10.46.8.99",
                    },
                    All
                )
                .Against
        );

    [Fact]
    public void WhatFitsTwoDevicesIsNobodysAndSaysWhose()
    {
        var match = FoundMatch.Of(new() { Address = "10.46.8.19" }, All);
        Assert.Null(match.Device);
        Assert.Equal([Quay.Id, Twin.Id], match.Candidates);
    }

    [Fact]
    public void NothingKnownMatchesNothing()
    {
        Assert.Equal(new FoundMatch(null, "", [], []).Device, FoundMatch.Of(new(), All).Device);
        Assert.Null(
            FoundMatch
                .Of(
                    new()
                    {
                        Serial = "TH0001",
                        Label = "XX",
                        HardwareAddress = "zz",
                        Address = "1.2.3.4",
                    },
                    All
                )
                .Device
        );
        // A serial that nobody knows leaves the rest to tell.
        Assert.Equal((Roof.Id, "label"), Told(new() { Serial = "TH0001", Label = "CC-07" }));
        Assert.Contains("serial", FoundMatch.Of(new() { Serial = "TH0001", Label = "CC-07" }, All).Against);
    }

    private static (Guid?, string) Told(FoundIdentity found)
    {
        var match = FoundMatch.Of(found, All);
        return (match.Device, match.By);
    }
}
